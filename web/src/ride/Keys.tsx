import { say } from '../words/en/ride.ftl';
import classes from './Pad.module.css';

interface KeysProps {
  /** A key was pressed: a digit, a point, a minus, or one back. */
  onKey: (key: string) => void;
  /** Below nought there are degrees, and no decimals of them. */
  minus: boolean;
}

const DIGITS = ['7', '8', '9', '4', '5', '6', '1', '2', '3'];

/** Keys for a thumb in a glove: digits, a point or a minus, and one back. */
export function Keys({ onKey, minus }: KeysProps) {
  const key = (face: string, label = face, value = face) => (
    <button
      key={face}
      type="button"
      className={classes.key}
      aria-label={label}
      onClick={() => onKey(value)}
    >
      {face}
    </button>
  );
  return (
    <fieldset className={classes.keys} aria-label={say('digits')}>
      {DIGITS.map((digit) => key(digit))}
      {minus ? key('−', 'Minus', '-') : key('.', 'Point')}
      {key('0')}
      {key('⌫', 'One back', 'back')}
    </fieldset>
  );
}

/** What is typed after one more key. */
export function typedAfter(before: string, key: string): string {
  if (key === 'back') return before.slice(0, -1);
  if (key === '-') return before.startsWith('-') ? before.slice(1) : `-${before}`;
  if (key === '.') return before.includes('.') ? before : `${before === '' ? '0' : before}.`;
  return before.length >= 9 ? before : before + key;
}
