import type { Schemas } from '../api/client';
import { percent } from '../format/units';
import { partWords } from '../format/words';
import { say } from '../words/en/result.ftl';
import classes from './Result.module.css';

type Part = Schemas['PartOut'];

/** Parts shown by name; the rest is one piece. */
const NAMED = 4;

/** What makes a figure uncertain: one bar, its parts named. */
export function BudgetBar({ parts, what }: { parts: Part[]; what: string }) {
  if (parts.length === 0) return null;
  const named = parts.slice(0, NAMED);
  const rest = 1 - named.reduce((sum, part) => sum + part.share_of_variance, 0);
  const pieces = [
    ...named.map((part) => ({ name: partWords(part.input), share: part.share_of_variance })),
    ...(rest > 0.01 ? [{ name: say('the-rest'), share: rest }] : []),
  ];
  return (
    <figure className={classes.budget}>
      <figcaption>{say('what-makes-the-unsure', { what })}</figcaption>
      <div
        className={classes.bar}
        role="img"
        aria-label={pieces.map((piece) => `${piece.name} ${percent(piece.share)}`).join(', ')}
      >
        {pieces.map((piece, index) => (
          <span
            key={piece.name}
            className={classes.piece}
            data-rest={piece.name === 'the rest' || undefined}
            style={{ flexGrow: piece.share, opacity: 1 - 0.2 * Math.min(index, 3) }}
          />
        ))}
      </div>
      <ol>
        {pieces.map((piece) => (
          <li key={piece.name}>
            <span>{piece.name}</span>
            <span>{percent(piece.share)}</span>
          </li>
        ))}
      </ol>
    </figure>
  );
}
