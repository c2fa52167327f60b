import createClient from 'openapi-fetch';
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
          ? 'Limpet does not answer. Check that it runs, and try again.'
          : `Limpet answered with ${status} and no reason. Try again.`),
    );
    this.status = status;
    this.problem = problem;
  }

  get fields(): Record<string, string> {
    return this.problem.fields ?? {};
  }
}

let csrfToken = '';

/** The token that every change carries; a new one comes with each sign-in. */
export function rememberCsrfToken(token: string) {
  csrfToken = token;
}

export const api = createClient<paths>({ baseUrl: globalThis.location?.origin ?? '' });

api.use({
  onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', csrfToken);
    return request;
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
