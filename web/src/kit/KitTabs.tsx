import { Tabs } from '../ui/Tabs';
import { say } from '../words/en/kit.ftl';
import { SHELVES } from './shelves';

const TABS = [
  ...SHELVES.map((shelf) => ({ to: `/kit/${shelf.name}`, label: shelf.label })),
  { to: '/kit/routes', label: say('routes') },
];

/** The shelves of the kit. */
export function KitTabs() {
  return <Tabs label={say('kit')} tabs={TABS} />;
}
