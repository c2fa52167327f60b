import { useEffect } from 'react';
import { say } from '../words/en/ui.ftl';

/** The window's title: the place first, so that tabs can be told apart. */
export function useTitle(place: string) {
  useEffect(() => {
    document.title = say('place-limpet', { place });
  }, [place]);
}
