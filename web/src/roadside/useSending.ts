import { useQueryClient } from '@tanstack/react-query';
import { useLiveQuery } from 'dexie-react-hooks';
import { useCallback, useEffect, useSyncExternalStore } from 'react';
import { onLateAnswer } from '../api/keeping';
import { sessionQuery, TESTS_KEY } from '../api/queries';
import { sendInBackground } from '../device/registered';
import { countUnsent } from './acts';
import { type Link, link, onLink, sendKept, tell } from './sender';

const RETRY_MS = 10_000;

/** How it stands with the server. */
export function useLink(): Link {
  return useSyncExternalStore(onLink, link);
}

/**
 * Sends what is kept on this device, wherever in the application one is: at once, every ten seconds
 * while something waits, and when the signal or the window comes back.
 */
export function useSending(username: string | null): void {
  const queryClient = useQueryClient();
  const waiting = useLiveQuery(() => countUnsent().catch(() => 0), [username]) ?? 0;
  const send = useCallback(async () => {
    const { tests, link: now } = await sendKept();
    if (now === 'signed_out') queryClient.invalidateQueries({ queryKey: sessionQuery.queryKey });
    if (now === 'silent') sendInBackground().catch(() => undefined);
    if (tests.size === 0) return;
    // A first answer that is still on its way may have left before what was sent arrived; it would
    // be taken for fresh.
    await queryClient.cancelQueries({ queryKey: TESTS_KEY });
    queryClient.invalidateQueries({ queryKey: TESTS_KEY });
  }, [queryClient]);
  useEffect(() => {
    // What was shown from this device meanwhile is asked for again.
    const back = () => queryClient.invalidateQueries();
    window.addEventListener('online', back);
    const onTime = onLateAnswer(back);
    return () => {
      window.removeEventListener('online', back);
      onTime();
    };
  }, [queryClient]);
  useEffect(() => {
    if (username === null) {
      tell('signed_out');
      return;
    }
    if (link() === 'signed_out') tell('well');
    if (waiting === 0) return;
    const trouble = (error: unknown) =>
      console.error('What is saved here could not be sent.', error);
    const now = () => {
      if (document.visibilityState === 'visible') send().catch(trouble);
    };
    now();
    const timer = setInterval(now, RETRY_MS);
    window.addEventListener('online', now);
    document.addEventListener('visibilitychange', now);
    return () => {
      clearInterval(timer);
      window.removeEventListener('online', now);
      document.removeEventListener('visibilitychange', now);
    };
  }, [waiting, username, send]);
}
