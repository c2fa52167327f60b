import { type ComponentType, lazy, useState } from 'react';

export interface Part<P extends object> {
  Place: ComponentType<P>;
  load: () => Promise<unknown>;
}

/** A piece whose code is loaded when it is wanted, and that shows at once when it is there already. */
export function part<P extends object = object>(load: () => Promise<ComponentType<P>>): Part<P> {
  let loaded: ComponentType<P> | null = null;
  const loading = () =>
    load().then((place) => {
      loaded = place;
      return { default: place };
    });
  const Lazy = lazy(loading) as unknown as ComponentType<P>;
  // React keeps what waits hidden for 300 ms, also when it would be ready at the first try.
  const Place = (props: P) => {
    // Chosen once: another component in its place would begin anew with an empty form.
    const [Chosen] = useState<ComponentType<P>>(() => loaded ?? Lazy);
    return <Chosen {...props} />;
  };
  return { Place, load: loading };
}
