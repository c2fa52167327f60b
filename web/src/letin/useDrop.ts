import { useEffect, useRef, useState } from 'react';
import { ApiError, api, type Problem, unwrap } from '../api/client';
import { say } from '../words/en/letin.ftl';
import type { Drop } from './choices';

/** What the server takes at once [MiB]; a larger upload would be cut off on its way. */
const MOST_MIB = 512;

interface Sending {
  drop: Drop | null;
  /** Share of the files that is sent, 0 to 100; null while nothing is on its way. */
  share: number | null;
  error: Error | null;
}

const NOTHING: Sending = { drop: null, share: null, error: null };

/** Files on their way to be looked at: sent with a count, and let go of when they are not wanted. */
export function useDrop() {
  const [state, setState] = useState(NOTHING);
  const [files, setFiles] = useState<readonly File[]>([]);
  const request = useRef<XMLHttpRequest | null>(null);
  useEffect(() => () => request.current?.abort(), []);

  async function send(chosen: readonly File[]) {
    setFiles(chosen);
    const bytes = chosen.reduce((sum, file) => sum + file.size, 0);
    if (bytes > MOST_MIB * 2 ** 20) {
      setState({ ...NOTHING, error: new Error(say('too-large', { mib: MOST_MIB })) });
      return;
    }
    setState({ ...NOTHING, share: 0 });
    try {
      const drop = await sent(chosen, (share) => setState({ ...NOTHING, share }), request);
      setState({ ...NOTHING, drop });
    } catch (error) {
      setState({ ...NOTHING, error: error as Error });
    }
  }
  function forget() {
    request.current?.abort();
    const id = state.drop?.id;
    setState(NOTHING);
    setFiles([]);
    if (id !== undefined) {
      api
        .DELETE('/api/imports/{drop_id}', { params: { path: { drop_id: id } } })
        .catch(() => undefined);
    }
  }
  return { ...state, files, send, forget };
}

/** `fetch` tells nothing of how far an upload is. */
async function sent(
  files: readonly File[],
  onShare: (share: number) => void,
  held: { current: XMLHttpRequest | null },
): Promise<Drop> {
  // A token of this visit comes with the session.
  const session = unwrap(await api.GET('/api/session'));
  return new Promise((resolve, reject) => {
    const body = new FormData();
    body.append('id', crypto.randomUUID());
    for (const file of files) body.append('files', file);
    const request = new XMLHttpRequest();
    held.current = request;
    request.open('POST', '/api/imports');
    request.setRequestHeader('X-CSRFToken', session.csrf_token);
    request.upload.onprogress = (event) => {
      if (event.lengthComputable) onShare(Math.floor((100 * event.loaded) / event.total));
    };
    request.onload = () => {
      let answer: unknown = null;
      try {
        answer = JSON.parse(request.responseText);
      } catch {
        // What is no answer of Limpet's says nothing.
      }
      if (request.status === 200 && answer !== null) resolve(answer as Drop);
      else reject(new ApiError(request.status, (answer ?? {}) as Partial<Problem>));
    };
    request.onerror = () => reject(new ApiError(0, {}));
    request.onabort = () => reject(new Error(say('cancelled')));
    request.send(body);
  });
}
