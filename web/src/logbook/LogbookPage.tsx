import { Button, Select, TextInput } from '@mantine/core';
import { useDebouncedValue, useDisclosure } from '@mantine/hooks';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { type TestFilter, testsQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { PURPOSES } from '../format/words';
import { Page, Trouble, Waiting } from '../ui/Page';
import { ImportDialog } from './ImportDialog';
import classes from './Logbook.module.css';
import { LogbookRow } from './LogbookRow';
import { LogbookScale } from './LogbookScale';
import { NothingYet } from './NothingYet';

/** Every test as a strip on one distance scale, so that the page itself is a comparison. */
export function LogbookPage() {
  const units = useUnits();
  const [importing, dialog] = useDisclosure(false);
  const [filter, setFilter] = useSearchParams();
  const vehicle = filter.get('vehicle') ?? '';
  const purpose = PURPOSES.find((item) => item.value === filter.get('purpose'))?.value ?? '';
  const words = (filter.get('q') ?? '').slice(0, 100);
  const [asked] = useDebouncedValue(words, 200);
  const wanted: TestFilter = {
    ...(vehicle ? { vehicle } : {}),
    ...(purpose ? { purpose } : {}),
    ...(asked ? { words: asked } : {}),
  };
  const tests = useInfiniteQuery(testsQuery(wanted));
  const choose = (name: string, value: string | null) =>
    setFilter(
      (before) => {
        const next = new URLSearchParams(before);
        if (value) next.set(name, value);
        else next.delete(name);
        return next;
      },
      { replace: true },
    );
  const first = tests.data?.pages[0];
  const summary = first?.summary ?? null;
  const shown = tests.data?.pages.flatMap((page) => page.items) ?? [];
  const lengthM = 1.02 * Math.max(1000, summary?.reach_m ?? 0);
  return (
    <Page
      name="Logbook"
      title={summary === null ? 'Logbook' : headline(summary)}
      coming={tests.isPending}
      actions={<Button onClick={dialog.open}>Import</Button>}
    >
      {tests.error && <Trouble error={tests.error} onRetry={() => tests.refetch()} />}
      {tests.isPending && <Waiting rows={6} height={44} />}
      {summary?.tests === 0 && <NothingYet onImport={dialog.open} />}
      {first && summary && summary.tests > 0 && (
        <>
          <div className={classes.filters}>
            <Select
              aria-label="Vehicle"
              data={[{ value: '', label: 'All vehicles' }, ...summary.vehicles]}
              value={vehicle}
              onChange={(value) => choose('vehicle', value)}
              w={160}
            />
            <Select
              aria-label="Question"
              data={[{ value: '', label: 'All questions' }, ...PURPOSES]}
              value={purpose}
              onChange={(value) => choose('purpose', value)}
              w={280}
            />
            <TextInput
              aria-label="Search"
              placeholder="Title, pack, rider"
              maxLength={100}
              value={words}
              onChange={(event) => choose('q', event.currentTarget.value)}
              w={180}
            />
            <span className={classes.count} role="status">
              {first.count === summary.tests
                ? `${summary.tests} tests`
                : `${first.count} of ${summary.tests}`}
            </span>
          </div>
          <LogbookScale lengthM={lengthM} units={units} />
          <ul className={classes.list}>
            {shown.map((test) => (
              <li key={test.id}>
                <LogbookRow test={test} lengthM={lengthM} units={units} />
              </li>
            ))}
          </ul>
          {first.count === 0 && <p className={classes.empty}>No test fits these filters.</p>}
          {tests.hasNextPage && (
            <Button
              mt="md"
              onClick={() => tests.fetchNextPage()}
              loading={tests.isFetchingNextPage}
            >
              Show more: {first.count - shown.length} are left
            </Button>
          )}
        </>
      )}
      <ImportDialog opened={importing} onClose={dialog.close} />
    </Page>
  );
}

function headline(summary: { tests: number; measured: number }) {
  if (summary.tests === 0) return 'No test is logged yet.';
  return (
    <>
      <b>{summary.tests === 1 ? 'One test' : `${summary.tests} tests`}</b>, {summary.measured}{' '}
      ridden to the end of the pack. All on one scale.
    </>
  );
}
