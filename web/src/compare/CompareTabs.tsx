import { Tabs } from '../ui/Tabs';

const TABS = [
  { to: '/compare', label: 'Side by side', end: true },
  { to: '/compare/ageing', label: 'Ageing' },
  { to: '/compare/seasons', label: 'Seasons' },
  { to: '/compare/tides', label: 'Tide table' },
];

/** Two sides, and the faces that look along time. */
export function CompareTabs() {
  return <Tabs label="Compare" tabs={TABS} />;
}
