import { useInterval } from '@mantine/hooks';
import { useQueryClient } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { useCallback, useEffect } from 'react';
import { TESTS_KEY } from '../api/queries';
import { type KeptEntry, keptFor, sendKept } from './outbox';

const RETRY_MS = 10_000;

/** What is still kept on this device for a test; tries to send it whenever there may be signal. */
export function useOutbox(testId: string): KeptEntry[] {
  const queryClient = useQueryClient();
  const kept = useLiveQuery(() => keptFor(testId), [testId]) ?? [];
  const send = useCallback(async () => {
    const sent = await sendKept(testId);
    if (sent === 0) return;
    // A first answer that is still on its way may have left before what was sent arrived; it would
    // be taken for fresh.
    await queryClient.cancelQueries({ queryKey: TESTS_KEY });
    queryClient.invalidateQueries({ queryKey: TESTS_KEY });
  }, [testId, queryClient]);
  const waiting = kept.some((entry) => !entry.refused);
  const retry = useInterval(send, RETRY_MS);
  useEffect(() => {
    if (waiting) retry.start();
    return retry.stop;
  }, [waiting, retry.start, retry.stop]);
  useEffect(() => {
    send();
    window.addEventListener('online', send);
    return () => window.removeEventListener('online', send);
  }, [send]);
  return kept;
}
