import type { Pack, Vehicle } from '../api/queries';

/** Stands for a piece that is not in the kit yet. */
export const NEW = 'new';

/** What you ride: pieces of the kit, or what is said of ones that are not in it yet. */
export interface KitFields {
  vehicle_id: string;
  pack_id: string;
  vehicle_kind: string;
  vehicle_name: string;
  pack_name: string;
  pack_words: string;
}

/** A form begins with the first of each; an empty kit begins with new ones. */
export function kitFields(vehicles: Vehicle[], packs: Pack[]): KitFields {
  return {
    vehicle_id: vehicles[0]?.id ?? NEW,
    pack_id: packs[0]?.id ?? NEW,
    vehicle_kind: 'kick_scooter',
    vehicle_name: '',
    pack_name: '',
    pack_words: '',
  };
}
