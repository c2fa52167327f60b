import { queryOptions } from '@tanstack/react-query';
import type { FeatureCollection } from 'geojson';
import { say } from '../words/en/ground.ftl';
import type { Extent, Place } from './plane';

/** A ground of one's own: a small file with coast, roads and names, and where on the globe it lies. */
export interface Ground {
  file: string;
  extent: Extent;
}

/** Grounds that come with Limpet: the made-up island's. */
const GROUNDS: readonly Ground[] = [
  {
    file: '/ground/skerrow.json',
    extent: { west: -24.7, south: 47.4, east: -24.2, north: 47.6 },
  },
];

/** The ground that a place lies on; null where there is none but the plain grid. */
export function groundAt([longitude, latitude]: Place): Ground | null {
  return (
    GROUNDS.find(
      ({ extent: { west, south, east, north } }) =>
        longitude >= west && longitude <= east && latitude >= south && latitude <= north,
    ) ?? null
  );
}

/** A ground's features. A ground that does not come is no trouble: the ride is drawn without. */
export const groundQuery = (ground: Ground | null) =>
  queryOptions({
    queryKey: ['ground', ground?.file ?? 'none'],
    queryFn: async (): Promise<FeatureCollection | null> => {
      if (ground === null) return null;
      const answer = await fetch(ground.file);
      if (!answer.ok) throw new Error(say('the-ground-of-this-map'));
      return answer.json();
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
