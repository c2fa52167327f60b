import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { bring } from '../letin/pending';

/** Files that are dropped anywhere come to the place that looks at them. */
export function useDropped() {
  const navigate = useNavigate();
  useEffect(() => {
    const holdsFiles = (event: DragEvent) => event.dataTransfer?.types.includes('Files') ?? false;
    function over(event: DragEvent) {
      // Without this the browser opens the file in the page's place.
      if (holdsFiles(event)) event.preventDefault();
    }
    function drop(event: DragEvent) {
      // Where a form takes files itself, they are its own.
      if (event.defaultPrevented || !holdsFiles(event)) return;
      event.preventDefault();
      const files = [...(event.dataTransfer?.files ?? [])];
      if (files.length === 0) return;
      bring(files);
      const { pathname } = window.location;
      const test = /^\/tests\/([0-9a-f-]{36})/.exec(pathname);
      navigate(test ? `/import?test=${test[1]}` : '/import');
    }
    window.addEventListener('dragover', over);
    window.addEventListener('drop', drop);
    return () => {
      window.removeEventListener('dragover', over);
      window.removeEventListener('drop', drop);
    };
  }, [navigate]);
}
