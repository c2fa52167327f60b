import { Tabs } from '../ui/Tabs';
import { say } from '../words/en/plan.ftl';

const TABS = [
  { to: '/plan', label: say('plans'), end: true },
  { to: '/plan/claim', label: say('claim-check') },
  { to: '/plan/size', label: say('size-a-pack') },
];

/** Plans and the two tools beside them. */
export function PlanTabs() {
  return <Tabs label={say('plan')} tabs={TABS} />;
}
