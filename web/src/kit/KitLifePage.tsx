import { useParams } from 'react-router';
import { NoPage } from '../ui/Page';
import { PackLife } from './PackLife';
import { RiderLife } from './RiderLife';
import { SHELVES } from './shelves';
import { VehicleLife } from './VehicleLife';

const LIVES = { vehicles: VehicleLife, packs: PackLife, riders: RiderLife } as const;

/** One piece of kit: what it is, its tests, and what they say of it. */
export function KitLifePage() {
  const { shelf: name = '', itemId = '' } = useParams();
  const shelf = SHELVES.find((item) => item.name === name);
  if (shelf === undefined) return <NoPage />;
  const Life = LIVES[shelf.name];
  return <Life key={itemId} itemId={itemId} />;
}
