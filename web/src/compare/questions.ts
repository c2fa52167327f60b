import type { Question } from '../api/queries';
import { say } from '../words/en/compare.ftl';

/** What two sides can differ in on purpose, as it is asked. */
export const QUESTIONS: Array<{ value: Question; label: string }> = [
  { value: 'vehicle', label: say('which-vehicle-uses-less') },
  { value: 'pack', label: say('which-pack-holds-more') },
  { value: 'temperature', label: say('how-much-does-cold-cost') },
  { value: 'speed', label: say('how-much-does-speed-cost') },
  { value: 'wind', label: say('how-much-does-wind-cost') },
  { value: 'load', label: say('how-much-does-load-cost') },
  { value: 'tyres', label: say('how-much-do-tyres-matter') },
  { value: 'surface', label: say('how-much-does-the-surface') },
  { value: 'pedalling', label: say('how-much-do-legs-give') },
  { value: 'repeat', label: say('does-it-repeat') },
];
