import type { FollowTable } from '../api/queries';
import type values from './start-values.json';
import type { KeptTable, StartSaid } from './store';

type StartValues = typeof values;
type Kind = keyof StartValues['kinds'];
type Cells = keyof StartValues['packs'];

/** A pack of which nobody said anything [Wh]. */
const USUAL_PACK_WH = 500;
/** Of this many steps is a gauge that shows percent. */
const PERCENT = 100;

/**
 * The table of a ride that nobody has judged: start values for such a vehicle and such a pack, as wide as
 * they are, moved by what its rider reads. A device that begins without a signal has it from the page.
 *
 * @param said what was chosen before the ride began
 * @param gaugeSteps what its gauge shows when full; null where nobody said
 */
export function startTable(
  from: StartValues,
  said: StartSaid,
  gaugeSteps: number | null,
): KeptTable {
  const kind = from.kinds[(said.kind in from.kinds ? said.kind : 'other') as Kind];
  const cells = from.packs[(said.chemistry in from.packs ? said.chemistry : 'nmc') as Cells];
  const known = said.series !== null && (said.rated_wh !== null || said.rated_ah !== null);
  const rated_wh = said.rated_wh ?? (said.rated_ah ?? 0) * (said.series ?? 0) * cells.mean_v;
  const one = cells.usable.map(
    (share, draw) =>
      share * (known ? rated_wh : USUAL_PACK_WH * (from.unknown_pack[draw] as number)),
  );
  const counted = said.packs_use === 'spare' ? 1 : said.packs;
  const usable = one.map((wh) => wh * counted);
  const begun = startOf(from, said.charge);
  const inTurn = said.packs_use === 'in_sequence' && said.packs > 1;
  // Of several packs in turn only the one in use is of the start that was told.
  const whole = inTurn ? counted - 1 : 0;
  const left = one.map((wh, draw) => wh * (whole + (counted - whole) * at(begun, draw)));
  const sights: FollowTable['sights'] = [];
  // What one of several shows says little of them all.
  if (known && !inTurn) {
    for (const [name, { shown, std }] of Object.entries(cells.volts)) {
      const series = said.series as number;
      const volts = shown.map((row) => row.map((cell) => cell * series));
      sights.push({ name, left: cells.left, shown: volts, std: std * series, by_log: false });
    }
  }
  if (gaugeSteps !== null && said.packs === 1) {
    const by = gaugeSteps / PERCENT;
    const shown = from.gauge.shown.map((row) => row.map((percent) => percent * by));
    // A gauge of few steps is no better than one of them.
    const std = Math.hypot(from.gauge.std * by, gaugeSteps < PERCENT ? STEP_STD : 0);
    sights.push({ name: 'gauge', left: from.gauge.left, shown, std, by_log: false });
  }
  sights.push({
    name: 'shown_range_m',
    left: from.gauge.left,
    shown: from.gauge.left.map((share) =>
      usable.map((wh, draw) =>
        Math.max((share * wh) / at(kind.per_m, draw) / at(from.came_of_shown, draw), 1),
      ),
    ),
    std: from.shown_std,
    by_log: true,
  });
  const lap_m = said.lap_length_m;
  return {
    follow_table: 2,
    // Every entry of the ride comes after it, the one before the first metre too.
    at_s: -1,
    done_m: 0,
    until_m: lap_m ?? 0,
    onward: lap_m === null ? 'back' : 'lap',
    leads: false,
    turned: false,
    lap_m,
    turn_until_m: lap_m === null ? MOST_WAY_M : 0,
    half: null,
    in_bag: said.packs_use === 'spare' ? said.packs - 1 : 0,
    reserve: said.reserve ?? from.reserve,
    wanted: from.wanted,
    shows_charge: false,
    reads: null,
    said_mps: null,
    speeds_mps: kind.speeds_mps,
    slower: kind.slower,
    places_m: kind.places_m,
    left_wh: left,
    last_wh: left.map(() => 0),
    heat_slope: 0,
    usable_wh: usable,
    per_m: kind.per_m,
    takes_wh: kind.takes_wh,
    rest_wh: kind.rest_wh,
    home_wh: kind.home_wh,
    lap_wh: lap_m === null ? null : kind.per_m.map((wh) => wh * lap_m),
    step_std: kind.step_std,
    height_m: kind.height_m,
    climb_wh: kind.climb_wh,
    sights,
    bases: [],
    steps: [],
    evidence: NOTHING_KNOWN,
    ahead: null,
    start_values: said,
  };
}

/** u of a reading of a gauge of few steps [steps]. */
const STEP_STD = 0.35;
const MOST_WAY_M = 2_000_000;
/** No answer of the server's is behind it, and no change of a sheet that it knows. */
const NOTHING_KNOWN: KeptTable['evidence'] = {
  revision: 0,
  digest: 'start values',
  core: '',
  sheet_changes: Number.MAX_SAFE_INTEGER,
  entries: [],
};

/** How full it began, in draws, by what its rider said. */
function startOf(from: StartValues, charge: StartSaid['charge']): number[] {
  const { unsaid, below_full, least_unsaid, just_charged_std } = from.start;
  if (charge === 'just_charged') return below_full.map((z) => 1 - just_charged_std * z);
  // Not full is anything; of what nobody knows a fifth is there.
  const least = charge === 'not_full' ? 0 : least_unsaid;
  return unsaid.map((chance) => least + (1 - least) * chance);
}

const at = (column: readonly number[], draw: number) => column[draw] as number;
