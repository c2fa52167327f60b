import type { Follow, Units } from '../api/queries';
import { ENTRY } from '../format/fields';
import { chance, distanceText, elapsed, percent, speedText } from '../format/units';
import type { Ride } from '../roadside/ride';
import type { Standing } from '../roadside/table';
import { ageOf, isOld } from './NowLine';
import type { Now } from './now';
import classes from './Pad.module.css';
import { SheetFoot } from './SheetFoot';
import { WaySheet } from './WaySheet';

interface NowSheetProps {
  ride: Ride;
  now: Now;
  /** How far it has come [m]. */
  ridden_m: number;
  units: Units;
  onClose: () => void;
}

/** Why the line says what it says, what else could be done with which chance, and what would tell more. */
export function NowSheet({ ride, now, ridden_m, units, onClose }: NowSheetProps) {
  const { follow } = ride;
  return (
    <div className={classes.pad}>
      <div className={classes.more}>
        <p>{now.under}</p>
        {follow?.warnings
          .filter((notice) => notice.severity !== 'note')
          .map((notice) => (
            <p key={notice.code + notice.message} role="alert" className={classes.warn}>
              {notice.message}
            </p>
          ))}
        {isOld(ride, now) && follow !== null && (
          <p>
            No answer from the server since {ageOf(ride)}.{' '}
            {now.standing ? 'The chances below are from the table it left on this device.' : ''}
          </p>
        )}
        {now.standing ? (
          <FromTable standing={now.standing} ride={ride} units={units} />
        ) : (
          follow && <FromServer follow={follow} units={units} />
        )}
        <WaySheet ride={ride} ridden_m={ridden_m} units={units} />
      </div>
      <SheetFoot onBack={onClose} />
    </div>
  );
}

function FromServer({ follow, units }: { follow: Follow; units: Units }) {
  const left = follow.energy_left_fraction;
  const on = follow.range_left_to_reserve;
  return (
    <>
      <dl className={classes.facts}>
        <dt>Energy left</dt>
        <dd>
          {percent(left.value)}, {percent(left.low)} to {percent(left.high)}
        </dd>
        <dt>On to the reserve</dt>
        <dd>
          {distanceText(Math.max(on.low, 0), units)} to {distanceText(on.high, units)}
        </dd>
        {follow.way && (
          <>
            <dt>The way that is left</dt>
            <dd>{distanceText(follow.way.left_m, units)}</dd>
          </>
        )}
        {follow.enough && (
          <>
            <dt>Range known to</dt>
            <dd>± {percent(follow.enough.relative_half_width)}</dd>
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
        <p>One more reading: {follow.more.slice(0, 3).map(moreWords).join('; ')}.</p>
      )}
    </>
  );
}

interface ChancesProps {
  reserve: number;
  rows: Array<{ words: string; arrives: number; reaches: number }>;
}

/** The ways to go on, each with its chance to arrive with the reserve and at all. */
function Chances({ reserve, rows }: ChancesProps) {
  return (
    <table className={classes.choices}>
      <caption>What could be done</caption>
      <thead>
        <tr>
          <th scope="col">way to go on</th>
          <th scope="col">{percent(reserve)} kept</th>
          <th scope="col">at all</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.words}>
            <th scope="row">{row.words}</th>
            <td>{chance(row.arrives)}</td>
            <td>{chance(row.reaches)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function choiceWords(choice: Follow['choices'][number], units: Units): string {
  if (choice.what === 'slower') return `${speedText(choice.speed_mps ?? 0, units)} from here`;
  if (choice.what === 'charge') {
    return `charge ${elapsed(choice.charge_s ?? 0)} first, ${Math.round(choice.charge_wh ?? 0)} Wh`;
  }
  if (choice.what === 'walk') return `walk the last ${distanceText(choice.walk_m ?? 0, units)}`;
  if (choice.what === 'lap') return `to the end of lap ${choice.laps}`;
  return 'go on as now';
}

function moreWords(more: Follow['more'][number]): string {
  const label = ENTRY.find((field) => field.name === more.name)?.label.toLowerCase() ?? more.name;
  return `${label} ± ${percent(more.now)} → ± ${percent(more.then)} of energy`;
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
          {percent(here.left)} ± {percent(1.96 * here.sure)}
        </dd>
        <dt>Ridden</dt>
        <dd>{distanceText(here.at_m, units)}</dd>
        <dt>Left at the end</dt>
        <dd>{percent(standing.arrivalLeft)}</dd>
      </dl>
      <Chances
        reserve={ride.table?.reserve ?? 0}
        rows={standing.bySpeed.map(({ speed_mps, arrives, reaches }, index) => ({
          words: index === 0 ? 'go on as now' : `${speedText(speed_mps, units)} from here`,
          arrives,
          reaches,
        }))}
      />
    </>
  );
}
