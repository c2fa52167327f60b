import { say } from '../words/en/api.ftl';
import { ApiError } from './client';
import { rememberedSession } from './session';

/** The device's store comes after the first page: nothing that is fetched waits for it. */
const cacheOf = async () => (await import('../roadside/store')).store.cache;

/** Where there is a copy here, an answer is waited for no longer than this [ms]. */
const PATIENCE_MS = 4000;
/** Tests whose pages are at hand without a signal: the newest that were looked at. */
const MOST_TESTS = 8;
const OF_A_TEST = 'test ';

/** What the server has answered since this page was opened. */
const answered = new Set<string>();

interface Copy {
  key: string;
  owner: string;
  at: number;
  value: unknown;
}

/**
 * Asks the server, and keeps a copy of its answer on this device: where there is no answer, the copy
 * of whoever is signed in stands in for it. A refusal or a failure stays what it is.
 *
 * @param key what was asked for; of a test, `test ` and its id come first
 */
export async function keeping<T>(key: string, ask: () => Promise<T>): Promise<T> {
  // Once the server has answered, the page has what it said: an older copy would be a step back.
  if (answered.has(key)) {
    const answer = await ask();
    keep(key, answer).catch(() => undefined);
    return answer;
  }
  let copyStandsIn = false;
  const asked = ask().then((answer) => {
    answered.add(key);
    keep(key, answer).catch(() => undefined);
    // It was given up and came after all: what is shown is older.
    if (copyStandsIn) for (const listener of lateListeners) listener();
    return answer;
  });
  // Both are under way; whoever fails first is looked at below.
  asked.catch(() => undefined);
  const copy = await copyOf<T>(key);
  try {
    return await (copy === undefined ? asked : within(PATIENCE_MS, asked));
  } catch (error) {
    if (copy === undefined || !(error instanceof ApiError) || error.status !== 0) throw error;
    copyStandsIn = true;
    return copy;
  }
}

const lateListeners = new Set<() => void>();

/** Tells when an answer came after its copy had been shown in its place; returns how to stop. */
export function onLateAnswer(listener: () => void): () => void {
  lateListeners.add(listener);
  return () => lateListeners.delete(listener);
}

async function copyOf<T>(key: string): Promise<T | undefined> {
  try {
    const found = (await (await cacheOf()).get(key)) as Copy | undefined;
    const owner = rememberedSession()?.username ?? '';
    // What was fetched of another shape of the API is fetched anew.
    return found && found.owner === `${owner} ${__API_DIGEST__}` ? (found.value as T) : undefined;
  } catch {
    // A private window that keeps nothing.
    return undefined;
  }
}

async function keep(key: string, value: unknown): Promise<void> {
  const owner = rememberedSession()?.username;
  if (!owner) return;
  const copy: Copy = { key, owner: `${owner} ${__API_DIGEST__}`, at: Date.now(), value };
  const { store } = await import('../roadside/store');
  await store.transaction('rw', store.cache, async () => {
    await store.cache.put(copy);
    if (!key.startsWith(OF_A_TEST)) return;
    const all = (await store.cache.where('key').startsWith(OF_A_TEST).toArray()) as Copy[];
    const ids = [...new Set(all.sort((a, b) => b.at - a.at).map(testOf))];
    const old = all.filter((one) => ids.indexOf(testOf(one)) >= MOST_TESTS);
    await store.cache.bulkDelete(old.map((one) => one.key));
  });
}

/** A test whose page is at hand without a signal. */
export interface SavedTest {
  id: string;
  title: string;
  seenAt: number;
}

/** Tests of whoever is signed in that were looked at last, the newest first. */
export async function testsSavedHere(): Promise<SavedTest[]> {
  const owner = `${rememberedSession()?.username ?? ''} ${__API_DIGEST__}`;
  const all = (await (await cacheOf()).where('key').startsWith(OF_A_TEST).toArray()) as Copy[];
  return all
    .filter((copy) => copy.owner === owner && copy.key === OF_A_TEST + testOf(copy))
    .sort((a, b) => b.at - a.at)
    .map((copy) => {
      const { title } = copy.value as { title?: string };
      return { id: testOf(copy), title: title || say('a-test-without-a-title'), seenAt: copy.at };
    });
}

const testOf = (copy: Copy) => copy.key.split(' ')[1] ?? '';

/** An answer that takes longer is as good as none. */
function within<T>(ms: number, answer: Promise<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    const timer = setTimeout(() => reject(new ApiError(0, {})), ms);
    answer.then(resolve, reject).finally(() => clearTimeout(timer));
  });
}
