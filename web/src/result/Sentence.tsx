import type { Result } from '../api/queries';
import { Strong } from '../ui/Strong';
import classes from './Result.module.css';

/** The verdict as the core composed it; what stands between asterisks is the heart of it. */
export function Sentence({ result }: { result: Result }) {
  const sentences = result.verdict.map((notice) => notice.message);
  return (
    <h1 className={classes.sentence} data-walk="sentence">
      {sentences.map((text, index) => (
        <span key={text}>
          {index > 0 && ' '}
          <Strong text={text} />
        </span>
      ))}
    </h1>
  );
}

/** The verdict in plain text, for a title or a list. */
export function plainVerdict(result: Result): string {
  return result.verdict.map((notice) => notice.message.replaceAll('*', '')).join(' ');
}
