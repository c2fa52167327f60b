import { Select } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { packsQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { packLifeQuery } from '../kit/lives';
import { type Along, RemainingCapacity } from '../kit/PackAgeing';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { Strong } from '../ui/Strong';
import { say } from '../words/en/compare.ftl';
import { Shown } from '../words/Shown';
import { CompareTabs } from './CompareTabs';
import { YearStrips } from './YearStrips';

/** How much a pack has aged, and when it is worn. */
export function AgeingPage() {
  const [query, setQuery] = useSearchParams();
  const packs = useQuery(packsQuery);
  if (packs.error) return <Trouble whole error={packs.error} onRetry={() => packs.refetch()} />;
  if (!packs.data) return <Waiting rows={3} height={60} />;
  const chosen = packs.data.find((pack) => pack.id === query.get('pack')) ?? packs.data[0];
  if (!chosen) {
    return (
      <Page name={say('ageing')} title={say('how-much-has-a-pack')}>
        <CompareTabs />
        <p>
          <Shown say={say} id="there-is-no-pack-yet" parts={{ a: <Link to="/kit" /> }} />
        </p>
      </Page>
    );
  }
  const choose = (
    <Select
      label={say('the-pack')}
      data={packs.data.map((pack) => ({ value: pack.id, label: pack.name }))}
      value={chosen.id}
      onChange={(id) => id && setQuery({ pack: id })}
      allowDeselect={false}
      searchable
      maw={340}
      mt="md"
    />
  );
  return <Aged key={chosen.id} packId={chosen.id} name={chosen.name} choose={choose} />;
}

interface AgedProps {
  packId: string;
  name: string;
  choose: React.ReactNode;
}

function Aged({ packId, name, choose }: AgedProps) {
  const found = useQuery(packLifeQuery(packId));
  const units = useUnits();
  const [along, setAlong] = useState<Along>('months');
  if (found.error) return <Trouble whole error={found.error} onRetry={() => found.refetch()} />;
  const left = found.data?.life.left;
  return (
    <Page
      name={say('ageing')}
      title={
        left ? (
          <>
            {name}. <Strong text={left.message} />
          </>
        ) : (
          say('how-much-has-it-aged', { name })
        )
      }
    >
      <CompareTabs />
      {choose}
      {found.data ? (
        <>
          <YearStrips tests={found.data.tests} units={units} />
          <section className={parts.section} aria-label={say('remaining-capacity')}>
            <RemainingCapacity life={found.data.life} along={along} onAlong={setAlong} />
          </section>
          <p>
            <Shown
              say={say}
              id="the-packs-own-page-has"
              parts={{ a: <Link to={`/kit/packs/${packId}`} /> }}
            />
          </p>
        </>
      ) : (
        // As high as what comes, so that nothing below it moves.
        <Waiting rows={6} height={80} />
      )}
    </Page>
  );
}
