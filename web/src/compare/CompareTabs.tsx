import { Tabs } from '../ui/Tabs';
import { say } from '../words/en/compare.ftl';

const TABS = [
  { to: '/compare', label: say('side-by-side'), end: true },
  { to: '/compare/ageing', label: say('ageing') },
  { to: '/compare/seasons', label: say('seasons') },
  { to: '/compare/tides', label: say('tide-table') },
];

/** Two sides, and the faces that look along time. */
export function CompareTabs() {
  return <Tabs label={say('compare')} tabs={TABS} />;
}
