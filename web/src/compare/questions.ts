import type { Question } from '../api/queries';

/** What two sides can differ in on purpose, as it is asked. */
export const QUESTIONS: Array<{ value: Question; label: string }> = [
  { value: 'vehicle', label: 'Which vehicle uses less?' },
  { value: 'pack', label: 'Which pack holds more?' },
  { value: 'temperature', label: 'How much does cold cost?' },
  { value: 'speed', label: 'How much does speed cost?' },
  { value: 'wind', label: 'How much does wind cost?' },
  { value: 'load', label: 'How much does load cost?' },
  { value: 'tyres', label: 'How much do tyres matter?' },
  { value: 'surface', label: 'How much does the surface matter?' },
  { value: 'pedalling', label: 'How much do legs give?' },
  { value: 'repeat', label: 'Does it repeat?' },
];
