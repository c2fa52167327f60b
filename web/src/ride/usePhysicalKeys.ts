import { useEffect } from 'react';

/** A keyboard types too, where one is at hand. */
export function usePhysicalKeys(press: (key: string) => void, off: boolean) {
  useEffect(() => {
    if (off) return;
    const listen = (event: KeyboardEvent) => {
      if (event.target instanceof HTMLTextAreaElement || event.ctrlKey || event.metaKey) return;
      if (/^\d$/.test(event.key)) press(event.key);
      else if (event.key === '.' || event.key === ',') press('.');
      else if (event.key === 'Backspace') press('back');
      else return;
      event.preventDefault();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, [press, off]);
}
