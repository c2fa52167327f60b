import { Button, Checkbox, Select, Table } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { Fragment, useEffect, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { api, unwrap } from '../api/client';
import core from '../api/core.json';
import {
  type Comparison,
  comparisonQuery,
  type Question,
  type TestRow,
  type Units,
} from '../api/queries';
import { day, distanceText, elapsed, number, temperatureText } from '../format/units';
import { useUnits } from '../format/useUnits';
import { Notices } from '../ui/Notices';
import { Page, Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { Strong } from '../ui/Strong';
import { WideTable } from '../ui/WideTable';
import { Along } from './Along';
import { Blind } from './Blind';
import classes from './Compare.module.css';
import { CompareTabs } from './CompareTabs';
import { Dots } from './Dots';
import { InTerms } from './InTerms';
import { Offers } from './Offers';
import { Overlay } from './Overlay';
import { SettleIt } from './SettleIt';
import { Steps } from './Steps';
import {
  addressOf,
  changeText,
  dealt,
  figureText,
  type Guess,
  guessText,
  judgedText,
  moved,
  type Sides,
  shareText,
  sidesOf,
} from './sides';

const FACTORS: Record<string, string> = core.factors;
const QUESTIONS: Array<{ value: Question; label: string }> = [
  { value: 'vehicle', label: 'Which vehicle uses less?' },
  { value: 'pack', label: 'Which pack holds more?' },
  { value: 'temperature', label: 'What does the cold do?' },
  { value: 'speed', label: 'What does speed cost?' },
  { value: 'wind', label: 'What does the wind cost?' },
  { value: 'load', label: 'What does load cost?' },
  { value: 'tyres', label: 'What do tyres cost?' },
  { value: 'surface', label: 'What does the surface cost?' },
  { value: 'pedalling', label: 'What do legs give?' },
  { value: 'repeat', label: 'Is it the same again?' },
];

/** Two sides of tests: which uses less, by how much, and whether it is shown. */
export function SideBySide() {
  const [query] = useSearchParams();
  const chosen = query.get('tests');
  const sides = sidesOf(query);
  if (chosen) return <Dealing ids={chosen.split(',').filter(Boolean)} />;
  if (sides.first.length === 0 || sides.second.length === 0) return <Choosing sides={sides} />;
  return <Judged sides={sides} question={(query.get('question') as Question | null) ?? null} />;
}

const newest = {
  queryKey: ['tests', 'to compare'],
  queryFn: async () => unwrap(await api.GET('/api/tests', { params: { query: { most: 100 } } })),
};

/** Tests chosen in the logbook are dealt to two sides, and the address says so. */
function Dealing({ ids }: { ids: string[] }) {
  const navigate = useNavigate();
  const tests = useQuery(newest);
  useEffect(() => {
    if (!tests.data) return;
    const rows = ids.flatMap((id) => tests.data.items.find((test) => test.id === id) ?? []);
    // What is older than the newest hundred is asked for by its id alone.
    const missing = ids.filter((id) => !rows.some((row) => row.id === id));
    const { first, second } = dealt(rows);
    const sides = first.length ? { first, second: [...second, ...missing] } : halves(missing);
    navigate(addressOf(sides, null), { replace: true });
  }, [tests.data, ids, navigate]);
  if (tests.error) return <Trouble error={tests.error} onRetry={() => tests.refetch()} />;
  return <Waiting rows={4} height={60} />;
}

const halves = ([one, ...others]: string[]): Sides => ({
  first: one === undefined ? [] : [one],
  second: others,
});

/** Nothing is chosen yet. */
function Choosing({ sides }: { sides: Sides }) {
  const navigate = useNavigate();
  const tests = useQuery(newest);
  const [first, setFirst] = useState<string | null>(sides.first[0] ?? null);
  const [second, setSecond] = useState<string | null>(sides.second[0] ?? null);
  const [question, setQuestion] = useState<Question | null>(null);
  const [blind, setBlind] = useState(false);
  if (tests.error) return <Trouble error={tests.error} onRetry={() => tests.refetch()} />;
  if (!tests.data) return <Waiting rows={3} height={50} />;
  const data = tests.data.items.map((test) => ({ value: test.id, label: labelOf(test) }));
  return (
    <Page name="Compare" title="Which uses less, and is it real?">
      <CompareTabs />
      {data.length < 2 ? (
        <p>
          Two tests make a comparison. <Link to="/ride">Log one</Link>, or import it in the{' '}
          <Link to="/logbook">logbook</Link>.
        </p>
      ) : (
        <form
          className={classes.choose}
          onSubmit={(event) => {
            event.preventDefault();
            if (first && second)
              navigate(
                addressOf({ first: [first], second: [second] }, question) +
                  (blind ? '&blind=1' : ''),
              );
          }}
        >
          <Select
            label="What do you want to know?"
            data={QUESTIONS}
            value={question}
            onChange={(value) => setQuestion(value as Question | null)}
            placeholder="What they differ in on purpose"
            clearable
          />
          {question && <Offers question={question} />}
          <Select label="One test" data={data} value={first} onChange={setFirst} searchable />
          <Select
            label="The other"
            data={data.filter((test) => test.value !== first)}
            value={second}
            onChange={setSecond}
            searchable
          />
          <Checkbox
            label="Hide which is which until I have said what I see"
            checked={blind}
            onChange={(event) => setBlind(event.currentTarget.checked)}
          />
          <div>
            <Button type="submit" variant="filled" disabled={!first || !second || first === second}>
              Compare
            </Button>
          </div>
          <p>
            Repeats are stronger than single runs: choose several tests in the{' '}
            <Link to="/logbook">logbook</Link>, then Compare.
          </p>
        </form>
      )}
    </Page>
  );
}

const labelOf = (test: TestRow) =>
  [test.title, test.vehicle_name, test.pack_name, day(test.started_at)].filter(Boolean).join(' · ');

function Judged({ sides, question }: { sides: Sides; question: Question | null }) {
  const units = useUnits();
  const navigate = useNavigate();
  const [query] = useSearchParams();
  const [guess, setGuess] = useState<Guess | null>(null);
  const found = useQuery(comparisonQuery(sides.first, sides.second, question));
  if (found.error) return <Trouble error={found.error} onRetry={() => found.refetch()} />;
  if (!found.data) return <Waiting rows={5} height={60} />;
  const comparison = found.data;
  if (query.has('blind') && guess === null && comparison.quantity) {
    return <Blind comparison={comparison} first={sides.first} units={units} onGuess={setGuess} />;
  }
  const [sentence, ...more] = comparison.reasons;
  const go = (next: Sides, asked: Question | null) => navigate(addressOf(next, asked));
  return (
    <Page
      name="Compare"
      title={sentence ? <Strong text={sentence.message} /> : 'Side by side.'}
      actions={
        <Button component={Link} to="/compare">
          Other tests
        </Button>
      }
    >
      <CompareTabs />
      <div className={classes.page}>
        <div className={classes.said}>
          {guess && <p>{guessText(guess, comparison.verdict)}</p>}
          <Notices notices={more} />
          {comparison.relative_difference && (
            <p>
              B beside A, at A’s conditions: {shareText(comparison)}, {judgedText(comparison)}.
            </p>
          )}
          <SettleIt key={`${sides.first} ${sides.second}`} comparison={comparison} sides={sides} />
        </div>
        <Select
          label="The question"
          data={QUESTIONS}
          value={comparison.question}
          onChange={(value) => go(sides, value as Question)}
          allowDeselect={false}
          maw={340}
          mt="md"
        />
        <Kept comparison={comparison} sides={sides} onMove={(next) => go(next, question)} />
        {comparison.quantity && <Drawn comparison={comparison} sides={sides} units={units} />}
        {comparison.warnings.length > 0 && (
          <section aria-label="To hold against it" className={classes.said}>
            <h2>To hold against it</h2>
            <Notices notices={comparison.warnings} />
          </section>
        )}
      </div>
    </Page>
  );
}

interface KeptProps {
  comparison: Comparison;
  sides: Sides;
  onMove: (sides: Sides) => void;
}

/** Which tests stand on which side. */
function Kept({ comparison, sides, onMove }: KeptProps) {
  const rows = new Map(comparison.tests.map((test) => [test.id, test]));
  return (
    <div className={classes.sides}>
      {(['first', 'second'] as const).map((side) => (
        <section key={side} aria-label={side === 'first' ? 'Side A' : 'Side B'}>
          <h2>
            <span className={classes.key} data-side={side} />
            {side === 'first' ? 'A' : 'B'}
          </h2>
          {sides[side].map((id) => {
            const test = rows.get(id);
            if (!test) return null;
            return (
              <div key={id} className={classes.one}>
                <span>
                  <Link to={`/tests/${id}`}>{test.title}</Link>
                  <br />
                  {[test.vehicle_name, test.pack_name, day(test.started_at)]
                    .filter(Boolean)
                    .join(', ')}
                </span>
                {sides[side].length > 1 && (
                  <Button size="xs" variant="subtle" onClick={() => onMove(moved(sides, id))}>
                    To {side === 'first' ? 'B' : 'A'}
                  </Button>
                )}
              </div>
            );
          })}
        </section>
      ))}
    </div>
  );
}

interface DrawnProps {
  comparison: Comparison;
  sides: Sides;
  units: Units;
}

function Drawn({ comparison, sides, units }: DrawnProps) {
  const laid = comparison.tests.flatMap((test) => {
    const side = sides.first.includes(test.id) ? ('first' as const) : ('second' as const);
    return test.strip ? [{ id: test.id, title: test.title, side, strip: test.strip }] : [];
  });
  return (
    <>
      {laid.length > 1 && (
        <section aria-label="Tides">
          <h2>Energy left over distance</h2>
          <Overlay laid={laid} units={units} />
        </section>
      )}
      <section aria-label="Conditions">
        <h2>From what was found to what is left of it</h2>
        <Steps comparison={comparison} units={units} />
        <Corrections comparison={comparison} units={units} />
      </section>
      <section aria-label="Runs">
        <h2>Every run</h2>
        <Dots comparison={comparison} units={units} />
        <RunTable comparison={comparison} units={units} />
      </section>
      {comparison.terms && <InTerms terms={comparison.terms} units={units} />}
      {comparison.along && <Along along={comparison.along} units={units} />}
      <Pairs comparison={comparison} units={units} />
    </>
  );
}

function Corrections({ comparison, units }: { comparison: Comparison; units: Units }) {
  if (comparison.corrections.length === 0) {
    return <p>Both were ridden alike, as far as was noted: nothing was set right.</p>;
  }
  return (
    <WideTable label="What conditions are worth">
      <Table.Thead>
        <Table.Tr>
          <Table.Th className={parts.words}>condition</Table.Th>
          <Table.Th className={parts.words}>set right in</Table.Th>
          <Table.Th>worth</Table.Th>
          <Table.Th>95% of it</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {comparison.corrections.map(({ name, applied_to, change }) => (
          <Table.Tr key={name + applied_to}>
            <Table.Th className={parts.words} scope="row">
              {FACTORS[name]}
            </Table.Th>
            <Table.Td className={parts.words}>{applied_to === 'first' ? 'A' : 'B'}</Table.Td>
            <Table.Td>{changeText(change.value, comparison, units)}</Table.Td>
            <Table.Td>
              {changeText(change.low, comparison, units)} to{' '}
              {changeText(change.high, comparison, units)}
            </Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </WideTable>
  );
}

function RunTable({ comparison, units }: { comparison: Comparison; units: Units }) {
  const text = ({ value, low, high }: { value: number; low: number; high: number }) =>
    `${figureText(value, comparison, units)} (${figureText(low, comparison, units)} to ${figureText(high, comparison, units)})`;
  return (
    <WideTable label="Runs in figures">
      <Table.Thead>
        <Table.Tr>
          <Table.Th className={parts.words}>run</Table.Th>
          <Table.Th>as found ○</Table.Th>
          <Table.Th>at A’s conditions ●</Table.Th>
        </Table.Tr>
      </Table.Thead>
      <Table.Tbody>
        {comparison.runs.map((run) => (
          <Table.Tr key={run.key}>
            <Table.Th className={parts.words} scope="row">
              {run.side === 'first' ? 'A' : 'B'} {run.title}
            </Table.Th>
            <Table.Td>{text(run.as_found)}</Table.Td>
            <Table.Td>{text(run.carried)}</Table.Td>
          </Table.Tr>
        ))}
      </Table.Tbody>
    </WideTable>
  );
}

type At = Comparison['pairs'][number]['first'];

/** Two single rides at the same places. */
function Pairs({ comparison, units }: { comparison: Comparison; units: Units }) {
  const { pairs } = comparison;
  if (pairs.length === 0) return null;
  const named = (pair: Comparison['pairs'][number]) =>
    pair.by === 'lap'
      ? `lap ${pair.name}`
      : pair.by === 'distance'
        ? distanceText(pair.first.at_m, units)
        : pair.name;
  const wh = (value: number | null) => (value === null ? '–' : `${number(value, 0)} Wh`);
  const volts = (value: number | null) => (value === null ? '–' : `${number(value, 1)} V`);
  // What neither ride noted anywhere is no column.
  const more = [
    {
      name: 'gauge',
      of: (at: At) => at.gauge,
      told: (value: number) => number(value, 0),
    },
    {
      name: 'warmth',
      of: (at: At) => at.temp_c,
      told: (value: number) => temperatureText(value, units),
    },
  ].filter(({ of }) => pairs.some(({ first, second }) => (of(first) ?? of(second)) !== null));
  return (
    <section aria-label="At the same places">
      <h2>At the same places</h2>
      <WideTable label="Both at the same places">
        <Table.Thead>
          <Table.Tr>
            <Table.Th className={parts.words}>place</Table.Th>
            <Table.Th>A after</Table.Th>
            <Table.Th>B after</Table.Th>
            <Table.Th>A used</Table.Th>
            <Table.Th>B used</Table.Th>
            <Table.Th>A volts</Table.Th>
            <Table.Th>B volts</Table.Th>
            {more.map(({ name }) => (
              <Fragment key={name}>
                <Table.Th>A {name}</Table.Th>
                <Table.Th>B {name}</Table.Th>
              </Fragment>
            ))}
            <Table.Th>B over A</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {pairs.map((pair) => (
            <Table.Tr key={`${pair.by} ${pair.name} ${pair.first.time_s}`}>
              <Table.Th className={parts.words} scope="row">
                {named(pair)}
              </Table.Th>
              <Table.Td>{elapsed(pair.first.time_s)}</Table.Td>
              <Table.Td>{elapsed(pair.second.time_s)}</Table.Td>
              <Table.Td>{wh(pair.first.energy_wh)}</Table.Td>
              <Table.Td>{wh(pair.second.energy_wh)}</Table.Td>
              <Table.Td>{volts(pair.first.voltage_v)}</Table.Td>
              <Table.Td>{volts(pair.second.voltage_v)}</Table.Td>
              {more.map(({ name, of, told }) => (
                <Fragment key={name}>
                  {[of(pair.first), of(pair.second)].map((value, side) => (
                    <Table.Td key={side === 0 ? 'A' : 'B'}>
                      {value === null ? '–' : told(value)}
                    </Table.Td>
                  ))}
                </Fragment>
              ))}
              <Table.Td>{pair.more_wh === null ? '–' : `${number(pair.more_wh, 0)} Wh`}</Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </WideTable>
    </section>
  );
}
