import { Button } from '@mantine/core';
import { useDebouncedValue } from '@mantine/hooks';
import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { sessionQuery, testsQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { useAddress } from '../places/useAddress';
import { Page, Trouble, Waiting } from '../ui/Page';
import { say } from '../words/en/logbook.ftl';
import { Shown } from '../words/Shown';
import { filterOf, linesOf } from './filter';
import classes from './Logbook.module.css';
import { LogbookFilters } from './LogbookFilters';
import { LogbookList } from './LogbookList';
import { LogbookScale } from './LogbookScale';
import { NothingYet } from './NothingYet';
import { MOST_AT_ONCE, Selection } from './Selection';
import { WalkOffer } from './WalkOffer';

const NONE: ReadonlySet<string> = new Set();

/** Every test as a strip on one distance scale, so that the page itself is a comparison. */
export function LogbookPage() {
  const units = useUnits();
  const session = useQuery(sessionQuery).data;
  const navigate = useNavigate();
  const [address, alterAddress] = useAddress();
  const [chosen, setChosen] = useState(NONE);
  const [words] = useDebouncedValue(address.get('q') ?? '', 200);
  const wanted = useMemo(() => {
    const asked = new URLSearchParams(address);
    asked.set('q', words);
    return filterOf(asked);
  }, [address, words]);
  const tests = useInfiniteQuery(testsQuery(wanted));
  const choose = (name: string, value: string | null) =>
    alterAddress((next) => {
      if (value) next.set(name, value);
      else next.delete(name);
    });
  const pick = useCallback((id: string, picked: boolean) => {
    setChosen((before) => {
      const next = new Set(before);
      if (!picked) next.delete(id);
      else if (next.size < MOST_AT_ONCE) next.add(id);
      return next;
    });
  }, []);
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = tests;
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage();
  }, [hasNextPage, isFetchingNextPage, fetchNextPage]);
  const pages = tests.data?.pages;
  const lines = useMemo(
    () => linesOf(pages?.flatMap((page) => page.items) ?? [], wanted.sort),
    [pages, wanted.sort],
  );
  const first = pages?.[0];
  const summary = first?.summary ?? null;
  const lengthM = 1.02 * Math.max(1000, summary?.reach_m ?? 0);
  return (
    <Page
      name={say('logbook')}
      title={summary === null ? say('logbook') : headline(summary)}
      coming={tests.isPending}
      actions={
        <Button component={Link} to="/import">
          {say('import')}
        </Button>
      }
    >
      {tests.error && <Trouble error={tests.error} onRetry={() => tests.refetch()} />}
      {tests.isPending && <Waiting rows={6} height={44} />}
      {summary?.tests === 0 && (
        <NothingYet
          demoOffered={session?.demo_offered ?? false}
          onImport={() => navigate('/import')}
        />
      )}
      {first && summary && summary.tests > 0 && (
        <>
          {session?.demo && <WalkOffer />}
          <LogbookFilters
            address={address}
            summary={summary}
            count={first.count}
            onChoose={choose}
          />
          <Selection chosen={chosen} onClear={() => setChosen(NONE)} />
          <LogbookScale lengthM={lengthM} units={units} />
          <LogbookList
            lines={lines}
            count={first.count}
            lengthM={lengthM}
            units={units}
            chosen={chosen}
            onChoose={pick}
            onNear={more}
          />
          {first.count === 0 && (
            <p className={classes.empty}>{say('no-test-fits-these-filters')}</p>
          )}
          {isFetchingNextPage && <p role="status">{say('more-rows-are-coming')}</p>}
        </>
      )}
    </Page>
  );
}

function headline(summary: { tests: number; measured: number }) {
  if (summary.tests === 0) return say('no-tests-yet');
  return (
    <Shown
      say={say}
      id="ridden-to-the-end-of"
      values={{
        tests: summary.tests === 1 ? say('one-test') : say('tests-tests', { tests: summary.tests }),
        measured: summary.measured,
      }}
      parts={{ b: <b /> }}
    />
  );
}
