import 'fake-indexeddb/auto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';

interface Received {
  method: string;
  path: string;
  body: { time_s?: number; reason?: string };
}

type Answer = (received: Received) => number | Promise<number>;

/** A server that answers each request as the test says, and what it was sent. */
let answer: Answer;
/** What it says of an entry beside the entry. */
let told: Record<string, unknown>;
let received: Received[];
let server: Server;
let acts: typeof import('./acts');
let sender: typeof import('./sender');
let db: typeof import('./store').store;

async function serve(request: IncomingMessage, response: ServerResponse) {
  let text = '';
  for await (const part of request) text += part;
  const path = request.url ?? '';
  if (path === '/api/session') {
    response.end(JSON.stringify({ username: 'noor', csrf_token: String(Math.random()) }));
    return;
  }
  const body = text === '' ? {} : JSON.parse(text);
  const one = { method: request.method ?? '', path, body };
  received.push(one);
  const status = await answer(one);
  if (status === 0) {
    request.socket.destroy();
    return;
  }
  response.writeHead(status, { 'Content-Type': 'application/json' });
  const stored = { entry: { ...body, id: path.split('/').at(-1) }, questions: [], ...told };
  if (status === 204) response.end();
  else response.end(JSON.stringify(status < 300 ? stored : { code: 'x', message: 'Not so.' }));
}

beforeAll(async () => {
  server = createServer(serve);
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
  const { port } = server.address() as AddressInfo;
  globalThis.location = { origin: `http://127.0.0.1:${port}` } as Location;
  acts = await import('./acts');
  sender = await import('./sender');
  db = (await import('./store')).store;
});

afterAll(() => {
  server.close();
});

const TEST = 'a-test';
const body = (time_s: number) => ({ time_s, kind: 'checkpoint' as const });
const note = (id: string, time_s: number, test = TEST) =>
  acts.noteEntry(test, id, body(time_s), body(time_s));
const waiting = async () => (await acts.actsOf(TEST)).map((act) => [act.kind, act.id, act.refused]);
const sent = () =>
  received.map(({ method, path }) => `${method} ${path.split('?')[0]?.split('/').at(-1)}`);

beforeEach(async () => {
  received = [];
  answer = () => 201;
  told = {};
  await Promise.all([db.acts.clear(), db.rides.clear()]);
  await acts.rememberWho('noor');
});

describe('what was done', () => {
  it('goes out in the order in which it was done, and leaves the device', async () => {
    const begun = { title: 'A ride', started_at: '2026-05-14T09:00:00+02:00' } as never;
    await acts.startRide(TEST, begun, { method: 'PUT', path: `/api/tests/${TEST}`, body: {} });
    await note('one', 1);
    await note('two', 2);
    await acts.removeEntry(TEST, 'one', body(1));
    await acts.endRide(TEST, 'home', '');
    answer = ({ method }) => (method === 'DELETE' ? 204 : 201);
    const found = await sender.sendKept();
    expect(sent()).toEqual([`PUT ${TEST}`, 'PUT one', 'PUT two', 'DELETE one', 'PUT ending']);
    expect(await waiting()).toEqual([]);
    expect([...found.tests]).toEqual([TEST]);
    expect(found.link).toBe('well');
  });

  it.each([
    [0, 'silent'],
    [500, 'failing'],
    [502, 'failing'],
    [503, 'failing'],
    [429, 'failing'],
    [401, 'signed_out'],
  ])('stays at an answer of %s, and the reason is known', async (status, why) => {
    answer = () => status;
    await note('one', 1);
    await note('two', 2);
    expect((await sender.sendKept()).link).toBe(why);
    // What came after waits behind it: nothing overtakes.
    expect(sent()).toEqual(['PUT one']);
    expect(await waiting()).toEqual([
      ['entry', 'one', ''],
      ['entry', 'two', ''],
    ]);
    expect(sender.link()).toBe(why);
  });

  it('of a ride that was refused waits behind it, also in a later run, and no other ride does', async () => {
    const begun = { title: 'A ride', started_at: '2026-05-14T09:00:00+02:00' } as never;
    await acts.startRide(TEST, begun, { method: 'PUT', path: `/api/tests/${TEST}`, body: {} });
    await note('one', 1);
    await note('elsewhere', 1, 'another-test');
    answer = ({ path }) => (path.endsWith(TEST) ? 422 : 201);
    await sender.sendKept();
    expect(sent()).toEqual([`PUT ${TEST}`, 'PUT elsewhere']);
    await sender.sendKept();
    expect(sent()).toEqual([`PUT ${TEST}`, 'PUT elsewhere']);
    expect(await waiting()).toEqual([
      ['start', TEST, 'Not so.'],
      ['entry', 'one', ''],
    ]);
  });

  it.each([400, 404, 409, 413, 422])(
    'is marked when refused with %s; the rest goes on',
    async (status) => {
      answer = ({ path }) => (path.endsWith('bad') ? status : 201);
      await note('bad', 1);
      await note('good', 2);
      await sender.sendKept();
      expect(await waiting()).toEqual([['entry', 'bad', 'Not so.']]);
      received = [];
      await sender.sendKept();
      expect(received).toEqual([]);
    },
  );

  it('of a ride that was refused waits for it', async () => {
    answer = ({ path }) => (path.endsWith(TEST) ? 422 : 201);
    await acts.startRide(TEST, {} as never, {
      method: 'PUT',
      path: `/api/tests/${TEST}`,
      body: {},
    });
    await note('one', 1);
    await note('other', 1, 'another-test');
    await sender.sendKept();
    expect(sent()).toEqual([`PUT ${TEST}`, 'PUT other']);
    expect(await waiting()).toEqual([
      ['start', TEST, 'Not so.'],
      ['entry', 'one', ''],
    ]);
  });

  it('of another account is not sent by whoever is signed in now', async () => {
    await note('one', 1);
    await acts.rememberWho('tobias');
    await sender.sendKept();
    expect(received).toEqual([]);
    await acts.rememberWho('noor');
    await sender.sendKept();
    expect(sent()).toEqual(['PUT one']);
  });

  it('is sent once, however many ask for it at once', async () => {
    await note('one', 1);
    await Promise.all([sender.sendKept(), sender.sendKept(), sender.sendKept()]);
    expect(sent()).toEqual(['PUT one']);
  });

  it('gets a new token where the old one is refused, and is then taken', async () => {
    let tries = 0;
    answer = () => {
      tries += 1;
      return tries === 1 ? 403 : 201;
    };
    await note('one', 1);
    await sender.sendKept();
    expect(sent()).toEqual(['PUT one', 'PUT one']);
    expect(await waiting()).toEqual([]);
  });
});

describe('an entry that is changed', () => {
  it('before it went is sent once, as it is now, in its old place', async () => {
    await note('one', 1);
    await note('two', 2);
    await note('one', 99);
    await sender.sendKept();
    expect(received.map((one) => one.body.time_s)).toEqual([99, 2]);
  });

  it('while it goes is sent again as it is now', async () => {
    await note('one', 1);
    answer = async ({ body: said }) => {
      if (said.time_s === 1) await note('one', 99);
      return 201;
    };
    await sender.sendKept();
    expect(received.map((one) => one.body.time_s)).toEqual([1, 99]);
    expect(await waiting()).toEqual([]);
  });

  it('is not marked by the refusal of what it said before', async () => {
    await note('one', 1);
    answer = async ({ body: said }) => {
      if (said.time_s !== 1) return 201;
      await note('one', 99);
      return 422;
    };
    await sender.sendKept();
    expect(await waiting()).toEqual([['entry', 'one', '']]);
    await sender.sendKept();
    expect(await waiting()).toEqual([]);
  });

  it('after a refusal goes out again', async () => {
    answer = () => 422;
    await note('one', 1);
    await sender.sendKept();
    answer = () => 201;
    await note('one', 5);
    await sender.sendKept();
    expect(await waiting()).toEqual([]);
    expect(received.map((one) => one.body.time_s)).toEqual([1, 5]);
  });
});

describe('an entry that is removed', () => {
  it('is not missed where the server never had it', async () => {
    answer = ({ method }) => (method === 'DELETE' ? 404 : 201);
    await acts.removeEntry(TEST, 'one', body(1));
    await sender.sendKept();
    expect(await waiting()).toEqual([]);
  });

  it('after a refusal is forgotten here, and nothing is asked', async () => {
    answer = () => 422;
    await note('one', 1);
    await sender.sendKept();
    received = [];
    await acts.removeEntry(TEST, 'one', body(1));
    await sender.sendKept();
    expect(received).toEqual([]);
    expect(await waiting()).toEqual([]);
  });

  it('comes back by an act of its own, under a name by which it is done once', async () => {
    await note('one', 1);
    const back = await acts.removeEntry(TEST, 'one', body(1));
    await back();
    const [, out, again] = await acts.actsOf(TEST);
    expect(out?.sending.path).toMatch(/\/one\?act=[0-9a-f-]{36}$/);
    expect(again?.sending.path).toMatch(/\/one\/restored\/[0-9a-f-]{36}$/);
    // Whatever waits, it stands here at once.
    expect(again?.shown).toEqual({ kind: 'entry', entry: body(1) });
    await sender.sendKept();
    expect(received.map((one) => one.method)).toEqual(['PUT', 'DELETE', 'PUT']);
  });

  it('stays out where a repeat of what noted it finds it taken out elsewhere', async () => {
    answer = () => 200;
    told = { removed: true, revision: 4 };
    await note('one', 1);
    await sender.sendKept();
    const ride = await db.rides.get(TEST);
    expect(ride?.taken?.map((one) => one.entry)).toEqual([null]);
  });

  it('comes back when that was a mistake', async () => {
    answer = () => 422;
    await note('one', 1);
    await sender.sendKept();
    const [act] = await acts.actsOf(TEST);
    if (!act) throw new Error('it is gone');
    await acts.discard(act.seq);
    await acts.restore(act);
    expect(await waiting()).toEqual([['entry', 'one', 'Not so.']]);
  });
});

describe('what an older version kept', () => {
  it('is still sent after the upgrade, oldest first', async () => {
    const { default: Dexie } = await import('dexie');
    db.close();
    await Dexie.delete('limpet-roadside');
    const old = new Dexie('limpet-roadside');
    old.version(2).stores({ kept: 'id, testId' });
    await old.table('kept').bulkAdd([
      { id: 'later', testId: TEST, body: body(2), keptAt: 20, version: 'b' },
      { id: 'earlier', testId: TEST, body: body(1), keptAt: 10, version: 'a' },
      { id: 'no', testId: TEST, body: body(3), keptAt: 30, version: 'c', refused: 'Not so.' },
    ]);
    old.close();
    await db.open();
    await acts.rememberWho('noor');
    expect(await waiting()).toEqual([
      ['entry', 'earlier', ''],
      ['entry', 'later', ''],
      ['entry', 'no', 'Not so.'],
    ]);
    await sender.sendKept();
    expect(sent()).toEqual(['PUT earlier', 'PUT later']);
  });
});
