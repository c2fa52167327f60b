import { Button } from '@mantine/core';
import { Link } from 'react-router';
import type { Kit } from './useKit';

/** What the kit lacks before anything can be forecast; null when nothing. */
export function NeedsKit({ kit }: { kit: Kit }) {
  const lacking = [
    kit.vehicles.length === 0 ? { to: '/kit/vehicles', what: 'a vehicle' } : null,
    kit.packs.length === 0 ? { to: '/kit/packs', what: 'a pack' } : null,
  ].filter((item) => item !== null);
  return (
    <div style={{ display: 'grid', gap: 12, justifyItems: 'start' }}>
      <p>
        A forecast needs {lacking.map((item) => item.what).join(' and ')} in your kit: its kind and
        its label are enough.
      </p>
      {lacking.map((item) => (
        <Button key={item.to} component={Link} to={item.to} variant="filled">
          Add {item.what}
        </Button>
      ))}
    </div>
  );
}
