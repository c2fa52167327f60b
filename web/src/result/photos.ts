import type { Strip, TestDetail, Units } from '../api/queries';
import { photoAddress } from '../entries/EntryPhoto';
import { distanceText } from '../format/units';
import type { Photo } from '../tideline/pieces';
import { say } from '../words/en/result.ftl';

/** The pictures of a ride's entries, and where along it each was taken. */
export function photosOf(
  { id, entries }: Pick<TestDetail, 'id' | 'entries'>,
  strip: Strip,
  units: Units,
): Photo[] {
  return entries.flatMap(({ photo, time_s }) => {
    const mark = strip.marks.find((one) => one.time_s === time_s);
    if (photo == null || mark === undefined) return [];
    return [
      {
        distance_m: mark.distance_m,
        address: photoAddress(id, photo),
        text: say('picture-taken-at', { distance_m: distanceText(mark.distance_m, units) }),
      },
    ];
  });
}
