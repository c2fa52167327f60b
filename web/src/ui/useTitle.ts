import { useEffect } from 'react';

/** The window's title: the place first, so that tabs can be told apart. */
export function useTitle(place: string) {
  useEffect(() => {
    document.title = `${place} · Limpet`;
  }, [place]);
}
