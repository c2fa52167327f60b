import { LifeChart } from '../chart/LifeChart';
import { percent } from '../format/units';
import { partWords } from '../format/words';
import parts from '../ui/Parts.module.css';
import { Strong } from '../ui/Strong';
import { say } from '../words/en/kit.ftl';
import type { VehicleLife as Life } from './lives';

/** How the gauge and the instruments changed over the years. */
export function Drifts({ life }: { life: Life['life'] }) {
  if (life.drifts.length === 0) return null;
  return (
    <section className={parts.section} aria-label={say('over-the-years')}>
      <h2>{say('what-changed-over-the-years')}</h2>
      {life.drifts.map((drift) => (
        <div key={`${drift.name} ${drift.of}`}>
          <p>
            {drift.name !== 'gauge' && `${capital(drift.of ?? partWords(drift.name))}: `}
            <Strong text={drift.said.message} /> {say('by-tests-tests', { tests: drift.tests })}
          </p>
          {drift.points.length > 0 && (
            <LifeChart
              what={say('of-shown-true', { of: capital(drift.of ?? partWords(drift.name)) })}
              along={say('years-since-its-first-test')}
              dots={drift.points.map(({ key, title, years, factor }) => ({
                key,
                title,
                x: years,
                quantity: factor,
              }))}
              text={percent}
            />
          )}
        </div>
      ))}
    </section>
  );
}

const capital = (words: string) => `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;
