import { isRecord, remember, remembered } from '../device/remembered';
import type { Schemas } from './client';

type Session = Schemas['SessionOut'];

const KEY = 'limpet-session';

function isSession(value: unknown): value is Session {
  return isRecord(value) && typeof value.username === 'string' && isRecord(value.units);
}

/** Who was signed in here last, with their units; null after signing out. */
export function rememberedSession(): Session | null {
  return remembered(KEY, isSession);
}

/** Remembers who is signed in, without the token, which is of one visit, and without the key of their seal. */
export function rememberSession(session: Session): void {
  if (session.username !== null) remember(KEY, { ...session, csrf_token: '', seal: null });
}

/** Signed out on purpose: the next page is the first one. */
export function forgetSession(): void {
  remember(KEY, null);
}
