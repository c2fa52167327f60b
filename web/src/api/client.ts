import createClient from 'openapi-fetch';
import { heardDate } from '../device/clock';
import { say } from '../words/en/api.ftl';
import type { components, paths } from './schema';

export type Schemas = components['schemas'];
export type Problem = Schemas['Problem'];

/** A failure as the server words it; `status` 0 means that no answer came at all. */
export class ApiError extends Error {
  readonly status: number;
  readonly problem: Partial<Problem>;

  constructor(status: number, problem: Partial<Problem>) {
    super(
      problem.message ||
        (status === 0
          ? say('limpet-isnt-answering-check-that')
          : say('answered-without-a-reason', { status })),
    );
    this.status = status;
    this.problem = problem;
  }

  get fields(): Record<string, string> {
    return this.problem.fields ?? {};
  }
}

/** How long an answer about a ride may take [ms]: a signal that hangs is no signal. */
const PATIENCE_MS = 20_000;
/** What is planned, forecast or compared may wait that long for its turn before it is begun. */
const COMPUTED_MS = 60_000;
const IMPORT_PATIENCE_MS = 15 * 60_000;

/** How long an answer from an address may take [ms]. */
export function patienceFor(url: string): number {
  const { pathname } = new URL(url);
  if (/\/import$|^\/api\/imports\/[^/]+\/(store|account)/.test(pathname)) return IMPORT_PATIENCE_MS;
  return /^\/api\/(tests|session)\b/.test(pathname) ? PATIENCE_MS : COMPUTED_MS;
}

/** What is sent from the roadside is small, and is sent again. */
const SENDING_MS = 8_000;

let csrfToken = '';

/** The token that every change carries; a new one comes with each sign-in. */
export function rememberCsrfToken(token: string) {
  csrfToken = token;
}

export const api = createClient<paths>({ baseUrl: globalThis.location?.origin ?? '' });

api.use({
  async onRequest({ request }) {
    // A page that opened from the device has no token of this visit yet.
    if (request.method !== 'GET' && csrfToken === '') await renewToken();
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken);
    return new Request(request, {
      signal: AbortSignal.any([request.signal, AbortSignal.timeout(patienceFor(request.url))]),
    });
  },
  onError() {
    return new ApiError(0, {});
  },
});

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or an ApiError: a failure with an empty body carries no `error`. */
export function unwrap<T>(answer: Answer<T>): T {
  if (!answer.response.ok) {
    const problem = typeof answer.error === 'object' && answer.error !== null ? answer.error : {};
    throw new ApiError(answer.response.status, problem as Partial<Problem>);
  }
  return answer.data as T;
}

/**
 * Sends a change as it was kept, without looking at it; fails with an ApiError. A token that is out of
 * date is asked for anew, once.
 */
export async function sendPlain(method: string, path: string, body?: unknown): Promise<unknown> {
  const send = async () => {
    const askedAt = Date.now();
    const answer = await fetch(`${globalThis.location.origin}${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': csrfToken },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(SENDING_MS),
    });
    heardDate(answer.headers.get('Date'), askedAt);
    return answer;
  };
  try {
    let response = await send();
    if (response.status === 403 && (await renewToken())) response = await send();
    const text = await response.text();
    const answer: unknown = text === '' ? undefined : JSON.parse(text);
    if (response.ok) return answer;
    throw new ApiError(response.status, (answer ?? {}) as Partial<Problem>);
  } catch (error) {
    if (error instanceof ApiError) throw error;
    // No answer, or one that is not Limpet's.
    throw new ApiError(0, {});
  }
}

async function renewToken(): Promise<boolean> {
  const answer = await fetch(`${globalThis.location.origin}/api/session`, {
    signal: AbortSignal.timeout(SENDING_MS),
  });
  const session = (await answer.json()) as Schemas['SessionOut'];
  const isNew = session.csrf_token !== csrfToken;
  rememberCsrfToken(session.csrf_token);
  return answer.ok && isNew;
}
