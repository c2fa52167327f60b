import { useSending } from './useSending';

/** Sends what is kept on this device, wherever in the application one is; it shows nothing. */
export function Sending({ username }: { username: string | null }) {
  useSending(username);
  return null;
}
