import type { Act, Sealed } from './store';

const ALGORITHM = 'AES-GCM';

/** An account's key as the server tells it, such that no script can read it back; null where it tells none. */
export async function keyFrom(told: string | null | undefined): Promise<CryptoKey | null> {
  const subtle = globalThis.crypto?.subtle;
  if (!told || !subtle) return null;
  const raw = Uint8Array.from(atob(told), (sign) => sign.charCodeAt(0));
  return subtle.importKey('raw', raw, ALGORITHM, false, ['encrypt', 'decrypt']);
}

export async function seal(key: CryptoKey, owner: string, acts: Act[]): Promise<Sealed> {
  const iv = crypto.getRandomValues(new Uint8Array(12));
  const text = new TextEncoder().encode(JSON.stringify(acts));
  return { owner, iv, data: await crypto.subtle.encrypt({ name: ALGORITHM, iv }, key, text) };
}

/** What was sealed, in its order; null where the key is another one: then it stays as it is. */
export async function unseal(key: CryptoKey, kept: Sealed): Promise<Act[] | null> {
  try {
    const text = await crypto.subtle.decrypt({ name: ALGORITHM, iv: kept.iv }, key, kept.data);
    return JSON.parse(new TextDecoder().decode(text)) as Act[];
  } catch {
    return null;
  }
}
