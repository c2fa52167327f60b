import { Tabs } from '../ui/Tabs';
import { SHELVES } from './shelves';

const TABS = [
  ...SHELVES.map((shelf) => ({ to: `/kit/${shelf.name}`, label: shelf.label })),
  { to: '/kit/routes', label: 'Routes' },
];

/** The shelves of the kit. */
export function KitTabs() {
  return <Tabs label="Kit" tabs={TABS} />;
}
