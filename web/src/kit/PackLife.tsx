import { useQuery } from '@tanstack/react-query';
import { GaugeSteps } from '../chart/GaugeSteps';
import { useUnits } from '../format/useUnits';
import { Trouble, Waiting } from '../ui/Page';
import parts from '../ui/Parts.module.css';
import { say } from '../words/en/kit.ftl';
import { KitHead, KitLink } from './KitHead';
import { LifeTests } from './LifeTests';
import { packLifeQuery } from './lives';
import { PackAgeing } from './PackAgeing';
import { pooledSteps } from './pooled';

/** A pack over its tests: what it gives, what it loses, and when to test it again. */
export function PackLife({ itemId }: { itemId: string }) {
  const query = useQuery(packLifeQuery(itemId));
  const units = useUnits();
  if (query.error) return <Trouble whole error={query.error} onRetry={() => query.refetch()} />;
  if (query.data === undefined) return <Waiting rows={4} height={90} />;
  const { item, tests, count, keys, life } = query.data;
  return (
    <KitHead
      shelf="packs"
      item={item}
      links={
        <>
          <KitLink to={`/forecast?pack=${item.id}`}>{say('forecast-with-it')}</KitLink>
          <KitLink to={`/compare/ageing?pack=${item.id}`}>{say('how-it-ages')}</KitLink>
        </>
      }
    >
      <PackAgeing life={life} keys={keys} units={units} />
      {life.gauge.length > 0 && (
        <section className={parts.section} aria-label={say('its-gauge')}>
          <h2>{say('what-the-gauge-meant-on')}</h2>
          <GaugeSteps steps={pooledSteps(life.gauge)} pooled={[]} units={units} />
        </section>
      )}
      <LifeTests
        tests={tests}
        count={count}
        all={`/logbook?pack=${encodeURIComponent(item.name)}`}
      />
    </KitHead>
  );
}
