import { useMutation, useQueryClient } from '@tanstack/react-query';
import { sayRemoved } from './notes';

interface Removal {
  /** What is removed, as the note names it. */
  what: string;
  remove: () => Promise<unknown>;
  restore: () => Promise<unknown>;
  /** The lists that it is in. */
  lists: ReadonlyArray<readonly unknown[]>;
  onDone?: () => void;
}

/** Removes a thing at once, and says so with an Undo. */
export function useRemoval({ what, remove, restore, lists, onDone }: Removal) {
  const queryClient = useQueryClient();
  const refresh = () =>
    Promise.all(lists.map((queryKey) => queryClient.invalidateQueries({ queryKey })));
  const removal = useMutation({
    mutationFn: remove,
    onSuccess: () => {
      refresh();
      onDone?.();
      sayRemoved(what, async () => {
        await restore();
        await refresh();
      });
    },
  });
  return { tap: () => removal.mutate(), pending: removal.isPending, error: removal.error };
}
