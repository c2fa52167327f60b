import { useCallback } from 'react';
import { useNavigate, useSearchParams } from 'react-router';

/**
 * What stands after the "?" of the address, and how to change it.
 *
 * The router draws a new address when there is time for it. A second choice made before that must
 * build on the address as it stands now, not as it was last drawn, or the first choice is lost.
 */
export function useAddress(): [URLSearchParams, (change: (next: URLSearchParams) => void) => void] {
  const [drawn] = useSearchParams();
  const navigate = useNavigate();
  const alter = useCallback(
    (change: (next: URLSearchParams) => void) => {
      const next = addressNow();
      change(next);
      navigate(`?${next}`, { replace: true });
    },
    [navigate],
  );
  return [drawn, alter];
}

/** What stands after the "?" at this moment, drawn or not. */
export function addressNow(): URLSearchParams {
  return new URLSearchParams(window.location.search);
}
