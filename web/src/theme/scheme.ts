import { isMantineColorScheme, type MantineColorSchemeManager } from '@mantine/core';
import { remember, remembered } from '../device/remembered';

const KEY = 'limpet-color-scheme';

/** Remembers the theme; a browser that keeps nothing goes by the device. */
export const scheme: MantineColorSchemeManager = {
  get: (fallback) => remembered(KEY, isMantineColorScheme, () => localStorage) ?? fallback,
  set: (value) => remember(KEY, value),
  subscribe: () => undefined,
  unsubscribe: () => undefined,
  clear: () => remember(KEY, null),
};
