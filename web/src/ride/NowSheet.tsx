import core from '../api/core.json';
import type { Follow, Units } from '../api/queries';
import { ENTRY } from '../format/fields';
import { chance, distanceText, elapsed, percent, speedText } from '../format/units';
import type { Ride } from '../roadside/ride';
import type { Link } from '../roadside/sender';
import type { Standing } from '../roadside/table';
import { Explained, Screen } from '../ui/Explained';
import { sourceWords } from './NowLine';
import classes from './Pad.module.css';
import { SheetFoot } from './SheetFoot';
import type { Shown } from './shown';
import { WaySheet } from './WaySheet';

interface NowSheetProps {
  ride: Ride;
  shown: Shown;
  link: Link;
  units: Units;
  onClose: () => void;
}

/** Why the line says what it says, what else could be done with which chance, and what would tell more. */
export function NowSheet({ ride, shown, link, units, onClose }: NowSheetProps) {
  const { follow, standing } = shown;
  // Of readings that contradict each other no number is told.
  const told = shown.code !== 'contradict';
  return (
    <Screen>
      <div className={classes.pad}>
        <div className={classes.more} data-state={shown.state}>
          <p>{shown.under}</p>
          <p>{sourceWords(shown, link)}</p>
          {follow?.warnings
            .filter((notice) => notice.severity !== 'note')
            .map((notice) => (
              <p key={notice.code + notice.message} role="alert" className={classes.warn}>
                <Explained text={notice.message} />
              </p>
            ))}
          {standing && !told && <p>Once there is a signal, Limpet shows which one fits least.</p>}
          {standing && told && <FromTable standing={standing} ride={ride} units={units} />}
          {follow && told && <FromServer follow={follow} units={units} />}
          <WaySheet ride={ride} ridden_m={shown.soFar_m ?? 0} units={units} />
        </div>
        <SheetFoot onBack={onClose} />
      </div>
    </Screen>
  );
}

function FromServer({ follow, units }: { follow: Follow; units: Units }) {
  const left = follow.energy_left_fraction;
  const on = follow.range_left_to_reserve;
  return (
    <>
      <dl className={classes.facts}>
        {left && (
          <>
            <dt>Energy left</dt>
            <dd>
              {percent(left.value)}, {percent(left.low)} to {percent(left.high)}
            </dd>
          </>
        )}
        {on && (
          <>
            <dt>
              <Explained text="Distance before the reserve" />
            </dt>
            <dd>
              {distanceText(Math.max(on.low, 0), units)} to {distanceText(on.high, units)}
            </dd>
          </>
        )}
        {follow.way && (
          <>
            <dt>Distance to go</dt>
            <dd>{distanceText(follow.way.left_m, units)}</dd>
          </>
        )}
        {follow.enough && (
          <>
            <dt>Range known to</dt>
            <dd>±{percent(follow.enough.relative_half_width)}</dd>
          </>
        )}
      </dl>
      {follow.choices.length > 0 && (
        <Chances
          reserve={follow.reserve}
          rows={follow.choices.map((choice) => ({
            words: choiceWords(choice, units),
            arrives: choice.arrives_probability,
            reaches: choice.reaches_probability,
          }))}
        />
      )}
      {follow.more.length > 0 && (
        <p>What to read next: {follow.more.slice(0, 3).map(moreWords).join('; ')}.</p>
      )}
    </>
  );
}

interface ChancesProps {
  reserve: number;
  rows: Option[];
}

interface Option {
  words: string;
  arrives: number;
  reaches: number;
}

/** Without a likely way home, going on as now is one of several: the best chance first, a lift last. */
function ranked(rows: Option[], reaches: number): Option[] {
  if (reaches >= core.might_not) return rows;
  return [...rows.toSorted((a, b) => b.reaches - a.reaches), LIFT];
}

/** The ways to go on, each with its chance to arrive with the reserve and at all. */
function Chances({ reserve, rows }: ChancesProps) {
  return (
    <table className={classes.choices}>
      <caption>What you could do</caption>
      <thead>
        <tr>
          <th scope="col">option</th>
          <th scope="col">home with {percent(reserve)} left</th>
          <th scope="col">home at all</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.words}>
            <th scope="row">{row.words}</th>
            {row.words === LIFT.words ? (
              <td colSpan={2}>no charge needed</td>
            ) : (
              <>
                <td>{chance(row.arrives)}</td>
                <td>{chance(row.reaches)}</td>
              </>
            )}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const BAG = 'swap in the spare pack, if it is full';
const LIFT: Option = { words: 'get a lift from here', arrives: 1, reaches: 1 };

function choiceWords(choice: Follow['choices'][number], units: Units): string {
  if (choice.what === 'slower') return `${speedText(choice.speed_mps ?? 0, units)} from here`;
  if (choice.what === 'charge') {
    return `charge ${elapsed(choice.charge_s ?? 0)} first, ${Math.round(choice.charge_wh ?? 0)} Wh`;
  }
  if (choice.what === 'pack') return BAG;
  if (choice.what === 'lift') return LIFT.words;
  if (choice.what === 'walk') return `walk the last ${distanceText(choice.walk_m ?? 0, units)}`;
  if (choice.what === 'lap') return `to the end of lap ${choice.laps}`;
  return 'carry on as now';
}

function moreWords(more: Follow['more'][number]): string {
  const label = ENTRY.find((field) => field.name === more.name)?.label.toLowerCase() ?? more.name;
  return `${label} would narrow the energy left from ±${percent(more.now)} to ±${percent(more.then)}`;
}

interface FromTableProps {
  standing: Standing;
  ride: Ride;
  units: Units;
}

function FromTable({ standing, ride, units }: FromTableProps) {
  const { here } = standing;
  return (
    <>
      <dl className={classes.facts}>
        <dt>Energy left</dt>
        <dd>
          {percent(here.left)} ±{percent(1.96 * here.sure)}
        </dd>
        <dt>Ridden</dt>
        <dd>{distanceText(here.at_m, units)}</dd>
        <dt>Left at the end</dt>
        <dd>{percent(standing.arrivalLeft)}</dd>
      </dl>
      <Chances
        reserve={ride.table?.reserve ?? 0}
        rows={ranked(
          [
            ...standing.bySpeed.map(({ speed_mps, arrives, reaches }, index) => ({
              words: index === 0 ? 'carry on as now' : `${speedText(speed_mps, units)} from here`,
              arrives,
              reaches,
            })),
            ...(standing.inBag ? [{ words: BAG, ...standing.inBag }] : []),
          ],
          standing.reaches,
        )}
      />
    </>
  );
}
