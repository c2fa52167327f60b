import { useCallback, useEffect, useState } from 'react';
import { isRecord, remember, remembered } from '../device/remembered';
import { useFields } from './useFields';

const inThisTab = () => sessionStorage;

/**
 * A form that survives being left: what you entered and not stored comes back when the place is opened
 * again in this tab. `settle` forgets it, once it is stored or thrown away.
 */
export function useDraft<T extends object>(key: string, start: T) {
  const name = `limpet-draft-${key}`;
  const [kept] = useState(() => remembered(name, isRecord, inThisTab));
  const { values: form, change: put } = useFields<T>(() =>
    kept === null ? start : { ...start, ...kept },
  );
  const [touched, setTouched] = useState(kept !== null);
  useEffect(() => {
    if (touched) remember(name, form, inThisTab);
  }, [name, form, touched]);
  const change = useCallback(
    (changed: Partial<T>) => {
      setTouched(true);
      put(changed);
    },
    [put],
  );
  const settle = useCallback(() => {
    setTouched(false);
    remember(name, null, inThisTab);
  }, [name]);
  const reset = useCallback(() => {
    settle();
    put(start);
  }, [settle, put, start]);
  return { form, change, settle, reset, restored: kept !== null && touched, touched };
}
