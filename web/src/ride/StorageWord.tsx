import { Text } from '@mantine/core';
import { useQuery } from '@tanstack/react-query';
import { store } from '../roadside/store';

/** Less room than this is said before the ride [bytes]. */
const LEAST_BYTES = 20 * 2 ** 20;

/** Said before a ride where this device will not keep it: no storage, hardly any room, a private window. */
export function StorageWord() {
  const trouble = useQuery({
    queryKey: ['storage'],
    queryFn: async () => (await storageTrouble()) ?? '',
    staleTime: 60_000,
    gcTime: 0,
  }).data;
  if (!trouble) return null;
  if (trouble === MAY_CLEAR) {
    return (
      <Text pb="md" size="sm" c="dimmed">
        {trouble}
      </Text>
    );
  }
  return (
    <Text role="alert" pb="md" fw={600}>
      {trouble}
    </Text>
  );
}

/** Most browsers say no to a page that is not installed: worth a word, and no alarm. */
const MAY_CLEAR =
  'If this device runs out of room, the browser may delete entries that are not sent yet. Keep some space free, or install Limpet: browsers seldom delete an installed app’s data.';

async function storageTrouble(): Promise<string | null> {
  try {
    await store.settings.put({ key: 'probe', value: Date.now() });
  } catch {
    return 'This window saves nothing on the device, perhaps because it is a private one: without a signal entries would be lost. Open Limpet in an ordinary window before you ride.';
  }
  const found = await navigator.storage?.estimate?.();
  if (found?.quota !== undefined && found.quota - (found.usage ?? 0) < LEAST_BYTES) {
    return 'There is hardly any room left on this device: free some before you ride, or entries may not be saved.';
  }
  // Asks that the browser does not clear what is kept when room gets short; it may say no.
  const kept = await navigator.storage?.persist?.().catch(() => false);
  return kept === false ? MAY_CLEAR : null;
}
