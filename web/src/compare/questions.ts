import type { Question } from '../api/queries';

/** What two sides can differ in on purpose, as it is asked. */
export const QUESTIONS: Array<{ value: Question; label: string }> = [
  { value: 'vehicle', label: 'Which vehicle uses less?' },
  { value: 'pack', label: 'Which pack holds more?' },
  { value: 'temperature', label: 'What does the cold do?' },
  { value: 'speed', label: 'What does speed cost?' },
  { value: 'wind', label: 'What does the wind cost?' },
  { value: 'load', label: 'What does load cost?' },
  { value: 'tyres', label: 'What do tyres cost?' },
  { value: 'surface', label: 'What does the surface cost?' },
  { value: 'pedalling', label: 'What do legs give?' },
  { value: 'repeat', label: 'Is it the same again?' },
];
