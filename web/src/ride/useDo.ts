import { useCallback } from 'react';
import { useLocation, useNavigate, useSearchParams } from 'react-router';

/** What lies open over the ride, in the address: Back closes it, and what you entered stays. */
export type Doing = 'entry' | 'event' | 'end' | 'unsent' | 'now' | 'menu' | 'prepare' | 'settle';

const ALL: readonly string[] = [
  'entry',
  'event',
  'end',
  'unsent',
  'now',
  'menu',
  'prepare',
  'settle',
];

export function useDo() {
  const navigate = useNavigate();
  const { state } = useLocation();
  const [search] = useSearchParams();
  const said = search.get('do') ?? '';
  const open = useCallback(
    (doing: Doing, more: Record<string, string> = {}) => {
      navigate(
        { search: `?${new URLSearchParams({ do: doing, ...more })}` },
        { state: { over: true } },
      );
    },
    [navigate],
  );
  const over = (state as { over?: boolean } | null)?.over === true;
  const close = useCallback(() => {
    // Opened by its address there is nothing to go back to.
    if (over) navigate(-1);
    else navigate({ search: '' }, { replace: true });
  }, [navigate, over]);
  return {
    doing: (ALL.includes(said) ? said : null) as Doing | null,
    entryId: search.get('entry'),
    open,
    close,
  };
}
