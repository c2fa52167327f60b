import { Button } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Pack, Rider, Vehicle } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/kit.ftl';
import classes from './Kit.module.css';
import { KitDialog } from './KitDialog';
import { KitTabs } from './KitTabs';
import { SHELF_QUERIES, SHELVES, type Shelf } from './shelves';

type Item = Vehicle | Pack | Rider;

/** Vehicles, packs and riders: list, add, change. */
export function KitPage() {
  const { shelf: name } = useParams();
  const shelf = SHELVES.find((item) => item.name === name) ?? SHELVES[0];
  if (shelf === undefined) return null;
  return <ShelfPage key={shelf.name} shelf={shelf} />;
}

function ShelfPage({ shelf }: { shelf: Shelf }) {
  const items = useQuery<Item[]>(SHELF_QUERIES[shelf.name] as never);
  const units = useUnits();
  const [editing, setEditing] = useState<Item | 'new' | null>(null);
  return (
    <Page
      name={shelf.label}
      title={<b>{say('kit')}</b>}
      actions={
        <Button variant="filled" onClick={() => setEditing('new')}>
          {say('add-a-one', { one: shelf.one })}
        </Button>
      }
    >
      <KitTabs />
      {items.isPending && <Waiting rows={3} height={40} />}
      {items.error && <Trouble error={items.error} onRetry={() => items.refetch()} />}
      {items.data?.length === 0 && <p style={{ padding: '20px 0' }}>{shelf.empty}</p>}
      <ul className={classes.list}>
        {items.data?.map((item) => (
          <li key={item.id} className={classes.item}>
            <Link className={classes.name} to={`/kit/${shelf.name}/${item.id}`}>
              {item.name}
            </Link>
            <span>
              {shelf.line(item, units)}
              {item.note && <div className={classes.note}>{item.note}</div>}
            </span>
            <Button
              size="compact-sm"
              aria-label={say('change-item', { item: item.name })}
              onClick={() => setEditing(item)}
            >
              {say('change')}
            </Button>
          </li>
        ))}
      </ul>
      {editing !== null && (
        <KitDialog
          shelf={shelf}
          item={editing === 'new' ? null : editing}
          units={units}
          onClose={() => setEditing(null)}
        />
      )}
    </Page>
  );
}
