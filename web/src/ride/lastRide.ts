import type { Now, Pack, Rider, Vehicle } from '../api/queries';
import { isRecord, remember, remembered } from '../device/remembered';
import { type KitFields, kitFields } from '../kit/kitFields';

const REMEMBERED = 'limpet-last-ride';

/** What is begun with again next time. */
interface Choice {
  vehicle_id: string;
  pack_id: string;
  rider_id: string;
  propulsion: string;
  target_speed_mps: string;
  gear_kg: string;
}

/** Keeps what a ride was begun with for the next one from this device. */
export const rememberChoice = (choice: Choice) => remember(REMEMBERED, { ...choice });

/** What the last ride from this device was begun with, as far as it is known. */
export function rememberedChoice(): Partial<Choice> {
  const stored: Partial<Record<keyof Choice, unknown>> = remembered(REMEMBERED, isRecord) ?? {};
  // What an older version kept, or somebody wrote there, may be anything.
  const words = Object.entries(stored).filter(([, value]) => typeof value === 'string');
  return Object.fromEntries(words) as Partial<Choice>;
}

/** The kit of the last ride from this device; failing that, of the newest test; an empty kit is made. */
export function usual(
  vehicles: Vehicle[],
  packs: Pack[],
  riders: Rider[],
  newest: Now | undefined,
): KitFields & { rider_id: string } {
  const stored = rememberedChoice();
  const pick = (
    list: Array<{ id: string; name: string }>,
    id: string | undefined,
    name: string | undefined,
  ) =>
    (list.find((item) => item.id === id) ?? list.find((item) => item.name === name) ?? list[0])?.id;
  const begun = kitFields(vehicles, packs);
  return {
    ...begun,
    vehicle_id: pick(vehicles, stored.vehicle_id, newest?.vehicle_name) ?? begun.vehicle_id,
    pack_id: pick(packs, stored.pack_id, newest?.pack_name) ?? begun.pack_id,
    rider_id: pick(riders, stored.rider_id, newest?.rider_name) ?? '',
  };
}
