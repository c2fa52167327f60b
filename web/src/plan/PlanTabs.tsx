import { Tabs } from '../ui/Tabs';

const TABS = [
  { to: '/plan', label: 'Plans', end: true },
  { to: '/plan/claim', label: 'Claim check' },
  { to: '/plan/size', label: 'Size a pack' },
];

/** Plans and the two tools beside them. */
export function PlanTabs() {
  return <Tabs label="Plan" tabs={TABS} />;
}
