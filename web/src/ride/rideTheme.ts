import { useLocalStorage } from '@mantine/hooks';

/** Sunlight is black on white and heavy; the others are those of the bench. */
export const RIDE_THEMES = ['sunlight', 'light', 'dark'] as const;
export type RideTheme = (typeof RIDE_THEMES)[number];

/** The theme of Ride, on this device. */
export function useRideTheme() {
  return useLocalStorage<RideTheme>({
    key: 'limpet-ride-theme',
    defaultValue: 'sunlight',
    getInitialValueInEffect: false,
  });
}

/** What is on or off in Ride, on this device; off until it is wanted. */
export function useRideSwitch(name: 'spoken' | 'awake') {
  return useLocalStorage<boolean>({
    key: `limpet-ride-${name}`,
    defaultValue: false,
    getInitialValueInEffect: false,
  });
}

export function rideTheme(theme: RideTheme): string | undefined {
  return theme === 'sunlight' ? 'sunlight' : 'bench';
}
