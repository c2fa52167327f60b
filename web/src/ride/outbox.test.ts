import 'fake-indexeddb/auto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';

type Answer = (body: { time_s: number }, entryId: string) => number | Promise<number>;

/** A server that answers each entry as the test says, and what it was sent. */
let answer: Answer;
let received: Array<{ id: string; time_s: number }>;
let server: Server;
let outbox: typeof import('./outbox');

async function serve(request: IncomingMessage, response: ServerResponse) {
  let text = '';
  for await (const part of request) text += part;
  const body = JSON.parse(text) as { time_s: number };
  const id = request.url?.split('/').at(-1) ?? '';
  received.push({ id, time_s: body.time_s });
  const status = await answer(body, id);
  if (status === 0) {
    request.socket.destroy();
    return;
  }
  response.writeHead(status, { 'Content-Type': 'application/json' });
  const stored = { entry: { id }, questions: ['Was it mistyped?'] };
  response.end(JSON.stringify(status < 300 ? stored : { code: 'x', message: 'Not like this.' }));
}

beforeAll(async () => {
  server = createServer(serve);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.address() as AddressInfo;
  globalThis.location = { origin: `http://127.0.0.1:${port}` } as Location;
  outbox = await import('./outbox');
});

afterAll(() => {
  server.close();
});

const TEST = 'a-test';
const entry = (time_s: number) => ({ time_s, kind: 'checkpoint' as const });

beforeEach(async () => {
  received = [];
  answer = () => 201;
  for (const kept of await outbox.keptFor(TEST)) await outbox.discard(kept.id);
});

const keptIds = async () => (await outbox.keptFor(TEST)).map((kept) => kept.id);

describe('an entry that is noted', () => {
  it('goes to the server and leaves the device, with what may be a slip', async () => {
    const noted = await outbox.note(TEST, 'one', entry(5));
    expect(noted).toEqual({ kept: false, questions: ['Was it mistyped?'] });
    expect(await keptIds()).toEqual([]);
    expect(received).toEqual([{ id: 'one', time_s: 5 }]);
  });

  it.each([0, 500, 502, 503, 401, 403, 429])('stays on the device at %s', async (status) => {
    answer = () => status;
    expect(await outbox.note(TEST, 'one', entry(5))).toEqual({ kept: true });
    expect(await keptIds()).toEqual(['one']);
  });

  it.each([400, 404, 409, 413, 422])(
    'is taken off again when it is refused with %s',
    async (status) => {
      answer = () => status;
      await expect(outbox.note(TEST, 'one', entry(5))).rejects.toThrow('Not like this.');
      expect(await keptIds()).toEqual([]);
    },
  );

  it('is on the device before it is sent', async () => {
    let seen: string[] = [];
    answer = async () => {
      seen = await keptIds();
      return 201;
    };
    await outbox.note(TEST, 'one', entry(5));
    expect(seen).toEqual(['one']);
  });
});

describe('entries that are kept', () => {
  it('go out oldest first, each once', async () => {
    answer = () => 0;
    await outbox.note(TEST, 'second', entry(2));
    await outbox.keep({ id: 'first', testId: TEST, body: entry(1), keptAt: 1 });
    received = [];
    answer = () => 201;
    expect(await outbox.sendKept(TEST)).toBe(2);
    expect(received.map((item) => item.id)).toEqual(['first', 'second']);
    expect(await keptIds()).toEqual([]);
    expect(await outbox.sendKept(TEST)).toBe(0);
  });

  it('wait behind one that gets no answer', async () => {
    await outbox.keep({ id: 'one', testId: TEST, body: entry(1), keptAt: 1 });
    await outbox.keep({ id: 'two', testId: TEST, body: entry(2), keptAt: 2 });
    answer = () => 503;
    expect(await outbox.sendKept(TEST)).toBe(0);
    expect(received).toHaveLength(1);
    expect(await keptIds()).toEqual(['one', 'two']);
  });

  it('are marked when they are refused, and the others go on', async () => {
    await outbox.keep({ id: 'bad', testId: TEST, body: entry(1), keptAt: 1 });
    await outbox.keep({ id: 'good', testId: TEST, body: entry(2), keptAt: 2 });
    answer = (_, id) => (id === 'bad' ? 422 : 201);
    expect(await outbox.sendKept(TEST)).toBe(1);
    expect((await outbox.keptFor(TEST)).map((kept) => [kept.id, kept.refused])).toEqual([
      ['bad', 'Not like this.'],
    ]);
    received = [];
    expect(await outbox.sendKept(TEST)).toBe(0);
    expect(received).toEqual([]);
  });

  it('are sent by one run at a time', async () => {
    await outbox.keep({ id: 'one', testId: TEST, body: entry(1) });
    const runs = await Promise.all([outbox.sendKept(TEST), outbox.sendKept(TEST)]);
    expect(runs).toEqual([1, 1]);
    expect(received).toHaveLength(1);
  });

  it('come back when they were removed by mistake', async () => {
    const kept = await outbox.keep({ id: 'one', testId: TEST, body: entry(1), refused: 'No.' });
    await outbox.discard('one');
    await outbox.keep(kept);
    expect((await outbox.keptFor(TEST))[0]).toMatchObject({ id: 'one', refused: 'No.' });
  });
});

describe('a newer body under the same id', () => {
  it('stays when the older one was stored meanwhile, and goes out next', async () => {
    await outbox.keep({ id: 'one', testId: TEST, body: entry(1) });
    answer = async (body) => {
      if (body.time_s === 1) await outbox.keep({ id: 'one', testId: TEST, body: entry(99) });
      return 201;
    };
    expect(await outbox.sendKept(TEST)).toBe(1);
    expect((await outbox.keptFor(TEST)).map((kept) => kept.body.time_s)).toEqual([99]);
    await outbox.sendKept(TEST);
    expect(received.map((item) => item.time_s)).toEqual([1, 99]);
    expect(await keptIds()).toEqual([]);
  });

  it('is not marked by the refusal of the older one', async () => {
    await outbox.keep({ id: 'one', testId: TEST, body: entry(1) });
    answer = async (body) => {
      if (body.time_s === 1) await outbox.keep({ id: 'one', testId: TEST, body: entry(99) });
      return 422;
    };
    await outbox.sendKept(TEST);
    expect((await outbox.keptFor(TEST)).map((kept) => [kept.body.time_s, kept.refused])).toEqual([
      [99, undefined],
    ]);
  });

  it('survives a note that is answered late', async () => {
    answer = async (body) => {
      if (body.time_s === 1) await outbox.keep({ id: 'one', testId: TEST, body: entry(99) });
      return 201;
    };
    await outbox.note(TEST, 'one', entry(1));
    expect((await outbox.keptFor(TEST)).map((kept) => kept.body.time_s)).toEqual([99]);
  });
});
