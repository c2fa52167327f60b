import type { Forecast } from '../api/queries';
import { percent } from '../format/units';
import classes from '../ui/Desk.module.css';
import { say } from '../words/en/forecast.ftl';

const PARTS: ReadonlyArray<[string, string]> = [
  [say('rolling'), say('rolling')],
  [say('air'), say('air')],
  [say('climb'), say('climb')],
  [say('stops'), say('stops')],
  [say('brakes'), say('brakes')],
  ['drivetrain', say('drive-losses')],
  ['auxiliary', say('lights-and-controller')],
  ['resistance', say('heat-in-the-pack')],
];

/** Where the energy goes, at the best values, ridden until the pack is empty. */
export function WhereItGoes({ forecast }: { forecast: Forecast }) {
  const book = forecast.where_it_goes_wh;
  const drawn = book?.drawn ?? 0;
  if (!book || drawn <= 0) return null;
  const parts = PARTS.map(([name, words]) => ({ words, share: (book[name] ?? 0) / drawn })).filter(
    (part) => part.share > 0.005,
  );
  return (
    <section aria-label={say('where-the-energy-goes')}>
      <h2>{say('where-the-energy-goes')}</h2>
      <div className={classes.parts} aria-hidden="true">
        {parts.map((part, index) => (
          <span
            key={part.words}
            style={{ width: percentWidth(part.share), opacity: 1 - 0.1 * index }}
          />
        ))}
      </div>
      <p>{parts.map((part) => `${part.words} ${percent(part.share)}`).join(', ')}.</p>
    </section>
  );
}

function percentWidth(share: number): string {
  return `${(100 * share).toFixed(2)}%`;
}
