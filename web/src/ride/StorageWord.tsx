import { Text } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { store } from '../roadside/store';
import { say } from '../words/en/ride.ftl';

/** Less room than this is said before the ride [bytes]. */
const LEAST_BYTES = 20 * 2 ** 20;

const storageQuery = {
  queryKey: ['storage'],
  queryFn: async () => (await storageTrouble()) ?? '',
  staleTime: 60_000,
  gcTime: 0,
};

/** Said before a ride where this device will not keep it: no storage, hardly any room, a private window. */
export function StorageWord() {
  const trouble = useQuery(storageQuery).data;
  if (!trouble || trouble === MAY_CLEAR) return null;
  return (
    <Text role="alert" pb="md" fw={600}>
      {trouble}
    </Text>
  );
}

/** What may happen where room gets short: below the form, for it comes late and would move what is tapped. */
export function StorageNote() {
  const trouble = useQuery(storageQuery).data;
  return trouble === MAY_CLEAR ? (
    <Text pt="md" size="sm" c="dimmed">
      {trouble}
    </Text>
  ) : null;
}

/** Most browsers say no to a page that is not installed: worth a word, and no alarm. */
const MAY_CLEAR = say('if-this-device-runs-out');

async function storageTrouble(): Promise<string | null> {
  try {
    await store.settings.put({ key: 'probe', value: Date.now() });
  } catch {
    return say('this-window-saves-nothing-on');
  }
  const found = await navigator.storage?.estimate?.();
  if (found?.quota !== undefined && found.quota - (found.usage ?? 0) < LEAST_BYTES) {
    return say('there-is-hardly-any-room');
  }
  // Asks that the browser does not clear what is kept when room gets short; it may say no.
  const kept = await navigator.storage?.persist?.().catch(() => false);
  return kept === false ? MAY_CLEAR : null;
}
