import { Button } from '@mantine/core';
import { type ReactNode, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Pack, Rider, Vehicle } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { Page } from '../ui/Page';
import { say } from '../words/en/kit.ftl';
import { KitDialog } from './KitDialog';
import { KitTabs } from './KitTabs';
import { SHELVES, type Shelf } from './shelves';

interface KitHeadProps {
  shelf: Shelf['name'];
  item: Vehicle | Pack | Rider;
  /** What can be asked of it elsewhere. */
  links?: ReactNode;
  children: ReactNode;
}

/** The name, what its label says, and the way to change it; the parts of history below. */
export function KitHead({ shelf: name, item, links, children }: KitHeadProps) {
  const shelf = SHELVES.find((one) => one.name === name) as Shelf;
  const units = useUnits();
  const navigate = useNavigate();
  const [changing, setChanging] = useState(false);
  return (
    <Page
      name={item.name}
      title={<b>{item.name}</b>}
      actions={
        <>
          {links}
          <Button onClick={() => setChanging(true)}>{say('change')}</Button>
        </>
      }
    >
      <KitTabs />
      <p>
        {shelf.line(item, units)}
        {item.note && ` · ${item.note}`}
      </p>
      {children}
      {changing && (
        <KitDialog
          shelf={shelf}
          item={item}
          units={units}
          onClose={() => setChanging(false)}
          onRemoved={() => navigate(`/kit/${name}`)}
        />
      )}
    </Page>
  );
}

/** A link to a place that begins with this piece of kit. */
export function KitLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <Button component={Link} to={to} variant="default">
      {children}
    </Button>
  );
}
