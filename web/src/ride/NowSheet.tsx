import core from '../api/core.json';
import type { Follow, Units } from '../api/queries';
import { ENTRY } from '../format/fields';
import { chance, distanceText, elapsed, percent, speedText } from '../format/units';
import type { Ride } from '../roadside/ride';
import type { Link } from '../roadside/sender';
import type { Standing } from '../roadside/table';
import { Explained, Screen } from '../ui/Explained';
import { say } from '../words/en/ride.ftl';
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
          {standing && !told && <p>{say('once-there-is-a-signal')}</p>}
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
            <dt>{say('energy-left-here')}</dt>
            <dd>
              {say('left-low-to-high', {
                left: percent(left.value),
                low: percent(left.low),
                high: percent(left.high),
              })}
            </dd>
          </>
        )}
        {on && (
          <>
            <dt>
              <Explained text={say('distance-before-the-reserve')} />
            </dt>
            <dd>
              {say('low-to-high', {
                low: distanceText(Math.max(on.low, 0), units),
                high: distanceText(on.high, units),
              })}
            </dd>
          </>
        )}
        {follow.way && (
          <>
            <dt>{say('distance-to-go')}</dt>
            <dd>{distanceText(follow.way.left_m, units)}</dd>
          </>
        )}
        {follow.enough && (
          <>
            <dt>{say('range-known-to')}</dt>
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
        <p>
          {say('what-to-read-next', { more: follow.more.slice(0, 3).map(moreWords).join('; ') })}
        </p>
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
      <caption>{say('what-you-could-do')}</caption>
      <thead>
        <tr>
          <th scope="col">{say('option')}</th>
          <th scope="col">{say('home-with-left', { reserve: percent(reserve) })}</th>
          <th scope="col">{say('home-at-all')}</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.words}>
            <th scope="row">{row.words}</th>
            {row.words === LIFT.words ? (
              <td colSpan={2}>{say('no-charge-needed')}</td>
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

const BAG = say('swap-in-the-spare-pack');
const LIFT: Option = { words: say('get-a-lift-from-here'), arrives: 1, reaches: 1 };

function choiceWords(choice: Follow['choices'][number], units: Units): string {
  if (choice.what === 'slower')
    return say('speed-mps-from-here', { speed_mps: speedText(choice.speed_mps ?? 0, units) });
  if (choice.what === 'charge') {
    return say('charge-first-wh', {
      charge_s: elapsed(choice.charge_s ?? 0),
      charge_wh: Math.round(choice.charge_wh ?? 0),
    });
  }
  if (choice.what === 'pack') return BAG;
  if (choice.what === 'lift') return LIFT.words;
  if (choice.what === 'walk')
    return say('walk-the-last', { walk_m: distanceText(choice.walk_m ?? 0, units) });
  if (choice.what === 'lap') return say('to-the-end-of-lap', { laps: choice.laps });
  return say('carry-on-as-now');
}

function moreWords(more: Follow['more'][number]): string {
  const label = ENTRY.find((field) => field.name === more.name)?.label.toLowerCase() ?? more.name;
  return say('would-narrow-the-energy-left', {
    label,
    now: percent(more.now),
    after: percent(more.then),
  });
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
        <dt>{say('energy-left-here')}</dt>
        <dd>
          {percent(here.left)} ±{percent(1.96 * here.sure)}
        </dd>
        <dt>{say('ridden')}</dt>
        <dd>{distanceText(here.at_m, units)}</dd>
        <dt>{say('left-at-the-end')}</dt>
        <dd>{percent(standing.arrivalLeft)}</dd>
      </dl>
      <Chances
        reserve={ride.table?.reserve ?? 0}
        rows={ranked(
          [
            ...standing.bySpeed.map(({ speed_mps, arrives, reaches }, index) => ({
              words:
                index === 0
                  ? say('carry-on-as-now')
                  : say('speed-mps-from-here', { speed_mps: speedText(speed_mps, units) }),
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
