import { useMutation, useQueryClient } from '@tanstack/react-query';
import { ApiError } from '../api/client';
import type { EntryKind } from '../api/queries';
import type { EntryBody } from '../entries/fields';
import { sayRemoved } from '../ui/notes';
import { discard, type KeptEntry, keep, type Noted, note } from './outbox';

export interface Noting {
  /** Seconds since the ride began, now. */
  now: () => number;
  /** Notes an entry; resolves once it is on the server or, without signal, on this device. */
  put: (entryId: string, body: EntryBody) => Promise<Noted>;
  /** Notes an entry that has nothing but its kind, and laps. */
  tap: (kind: EntryKind, laps?: number) => void;
  discard: (entry: KeptEntry) => void;
  pending: boolean;
  error: ApiError | null;
  questions: string[];
}

/** How an entry gets from a thumb to the disk. */
export function useNote(testId: string, startedAt: string | null | undefined): Noting {
  const queryClient = useQueryClient();
  const put = useMutation({
    mutationFn: ({ entryId, body }: { entryId: string; body: EntryBody }) =>
      note(testId, entryId, body),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['tests'] }),
  });
  const now = () => {
    const begun = startedAt ? new Date(startedAt).getTime() : Date.now();
    return Math.max((Date.now() - begun) / 1000, 0);
  };
  return {
    now,
    put: (entryId, body) => put.mutateAsync({ entryId, body }),
    tap: (kind, laps) => {
      const body: EntryBody = { time_s: now(), kind, ...(laps === undefined ? {} : { laps }) };
      put.mutate({ entryId: crypto.randomUUID(), body });
    },
    discard: (entry) => {
      discard(entry.id).then(() => sayRemoved('The entry', () => keep(entry)));
    },
    pending: put.isPending,
    error: put.error instanceof ApiError ? put.error : null,
    questions: put.data?.kept === false ? put.data.questions : [],
  };
}
