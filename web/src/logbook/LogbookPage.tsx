import { Button, Select, TextInput } from '@mantine/core';
import { useDisclosure } from '@mantine/hooks';
import { useQuery } from '@tanstack/react-query';
import { useSearchParams } from 'react-router';
import { type TestRow, testsQuery } from '../api/queries';
import { useUnits } from '../format/useUnits';
import { PURPOSES } from '../format/words';
import { Page, Trouble, Waiting } from '../shell/Page';
import { reachOf } from '../tideline/geometry';
import { ImportDialog } from './ImportDialog';
import classes from './Logbook.module.css';
import { LogbookRow } from './LogbookRow';
import { LogbookScale } from './LogbookScale';
import { NothingYet } from './NothingYet';

/** Every test as a strip on one distance scale, so that the page itself is a comparison. */
export function LogbookPage() {
  const tests = useQuery(testsQuery);
  const units = useUnits();
  const [importing, dialog] = useDisclosure(false);
  const [filter, setFilter] = useSearchParams();
  const vehicle = filter.get('vehicle') ?? '';
  const purpose = filter.get('purpose') ?? '';
  const words = filter.get('q') ?? '';
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
  const all = tests.data ?? [];
  const shown = all.filter(
    (test) =>
      (!vehicle || test.vehicle_name === vehicle) &&
      (!purpose || test.purpose === purpose) &&
      (!words || searchable(test).includes(words.toLowerCase())),
  );
  const vehicles = [...new Set(all.map((test) => test.vehicle_name))].filter(Boolean).sort();
  const lengthM = 1.02 * Math.max(1000, ...all.map((test) => reachOf(test.strip)));
  return (
    <Page
      title={headline(all, tests.isPending)}
      actions={<Button onClick={dialog.open}>Import</Button>}
    >
      {tests.error && <Trouble error={tests.error} onRetry={() => tests.refetch()} />}
      {tests.isPending && <Waiting rows={6} height={44} />}
      {tests.data && all.length === 0 && <NothingYet onImport={dialog.open} />}
      {all.length > 0 && (
        <>
          <div className={classes.filters}>
            <Select
              aria-label="Vehicle"
              data={[{ value: '', label: 'All vehicles' }, ...vehicles]}
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
              value={words}
              onChange={(event) => choose('q', event.currentTarget.value)}
              w={180}
            />
            <span className={classes.count}>
              {shown.length === all.length
                ? `${all.length} tests`
                : `${shown.length} of ${all.length}`}
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
          {shown.length === 0 && <p className={classes.empty}>No test fits these filters.</p>}
        </>
      )}
      <ImportDialog opened={importing} onClose={dialog.close} />
    </Page>
  );
}

function searchable(test: TestRow): string {
  return `${test.title} ${test.vehicle_name} ${test.pack_name} ${test.rider_name}`.toLowerCase();
}

function headline(tests: TestRow[], pending: boolean) {
  if (pending) return 'Logbook';
  if (tests.length === 0) return 'No test is logged yet.';
  const measured = tests.filter((test) => test.figures.range_measured).length;
  return (
    <>
      <b>{tests.length === 1 ? 'One test' : `${tests.length} tests`}</b>, {measured} ridden to the
      end of the pack. All on one scale.
    </>
  );
}
