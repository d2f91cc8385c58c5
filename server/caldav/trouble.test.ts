import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { inDays, outsideEvent, useCalendarHouse } from '../testing/caldav';
import { breakConnections, CUT, cuttingLine, spread, type Breaker } from '../testing/faults';

const use = useCalendarHouse();
let line: Awaited<ReturnType<typeof cuttingLine>>;
let breaker: Breaker;
let id = '';
beforeAll(async () => {
  breaker = breakConnections();
  line = await cuttingLine(Number(new URL(use.radicale.url).port));
  id = await use.link(use.radicale.calendar.replace(/:\d+/, `:${line.port}`));
  use.house.expectFailure(CUT);
});
afterAll(async () => {
  breaker.restore();
  await line.stop();
});

let serial = 0;
const theirs = (): Promise<void> => {
  const name = `there-${++serial}`;
  const data = outsideEvent(
    `${name}@phone.example`,
    `SUMMARY:${name}`,
    `DTSTART:${inDays(3, serial % 24).ics}`,
    `DTEND:${inDays(4, serial % 24).ics}`,
  );
  return use.radicale.put(`${name}.ics`, data);
};
const ours = async (): Promise<void> => {
  const title = `here-${++serial}`;
  await use.pell.call('POST /api/tasks', {
    body: { title, kind: 'meeting', dueAt: inDays(5, serial % 24).iso, allDay: false },
  });
};
const titles = async (): Promise<string[]> => {
  const { body } = await use.pell.call('GET /api/calendar', {
    query: { from: inDays(0, 0).iso, until: inDays(30, 0).iso },
  });
  return body.items.map(({ title }) => title).sort();
};
const titlesThere = async (): Promise<string[]> => {
  const files = await Promise.all((await use.radicale.files()).map((name) => use.radicale.get(name)));
  return files.map((file) => /SUMMARY:(.*)/.exec(file ?? '')?.[1]?.trim() ?? '').sort();
};
const ask = () => use.pell.call('POST /api/calendar/links/:id/sync', { params: { id } });
const link = async () => (await use.pell.call('GET /api/calendar/links')).body.items[0];
const isSame = async (): Promise<boolean> =>
  JSON.stringify(await titles()) === JSON.stringify(await titlesThere());

const MOST_MINUTES = 6;
/** As the minutes pass: what failed is tried again, and what a process held that was cut off is free again. */
async function untilSame(): Promise<void> {
  for (let minute = 1; minute <= MOST_MINUTES; minute++) {
    await use.house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
    await use.house.work();
    breaker.arm(Infinity);
    if (await isSame()) break;
    use.house.tools.now = () => new Date(Date.now() + minute * 61_000);
    await ask();
  }
  use.house.tools.now = () => new Date();
  await use.house.sequelize.query('UPDATE caldav_links SET lease_until = NULL');
}

it('each event is once on both sides, whichever statement finds the database gone', async () => {
  await ours();
  await theirs();
  await use.house.work();
  await ask();
  breaker.arm(Infinity);
  await use.house.work();
  const statements = breaker.counted();
  expect(statements).toBeGreaterThan(30);
  expect(await isSame()).toBe(true);
  for (const at of spread(statements, 8)) {
    await ours();
    await theirs();
    await use.house.work();
    const wanted = [...(await titles()), `there-${serial}`].sort();
    await ask();
    breaker.arm(at);
    await untilSame();
    expect([at, await titles()]).toEqual([at, wanted]);
  }
});

it('each event is once on both sides, wherever the line to the server is cut', async () => {
  for (const bytes of [0, 100, 900, 1500, 2500, 4000]) {
    await ours();
    await theirs();
    await use.house.work();
    const wanted = [...(await titles()), `there-${serial}`].sort();
    line.cutAfter(bytes);
    await ask();
    await use.house.work();
    line.cutAfter(Infinity);
    await untilSame();
    expect([bytes, await titles()]).toEqual([bytes, wanted]);
  }
}, 120_000);

it('says that the server is away, and that it is back', async () => {
  line.cutAfter(0);
  expect(await use.sync()).toMatchObject({
    state: 'down',
    trouble: expect.stringMatching(/cannot be reached/) as string,
  });
  line.cutAfter(Infinity);
  expect(await use.sync()).toMatchObject({ state: 'current', trouble: '' });
});

it('one process at a time; one that was ended holds nobody up for longer than a minute', async () => {
  await use.house.sequelize.query("UPDATE caldav_links SET lease_until = now() + interval '60 seconds'");
  await ours();
  await use.sync();
  expect(await isSame()).toBe(false);
  const { now } = use.house.tools;
  use.house.tools.now = () => new Date(Date.now() + 61_000);
  await use.sync();
  use.house.tools.now = now;
  expect(await isSame()).toBe(true);
});

it('a server that forgets everything takes nothing from us until somebody says so', async () => {
  const before = await titles();
  expect(before.length).toBeGreaterThan(10);
  for (const name of await use.radicale.files()) await use.radicale.remove(name);
  expect(await use.sync()).toMatchObject({
    state: 'forgetful',
    trouble: expect.stringMatching(/gone/) as string,
  });
  expect(await titles()).toEqual(before);
  const { version } = (await link()) ?? {};
  await use.pell.call('PATCH /api/calendar/links/:id', {
    params: { id },
    body: { version, mayRemove: true },
  });
  expect(await use.sync()).toMatchObject({ state: 'current', events: 0 });
  expect(await titles()).toEqual([]);
});

describe('a server that is no server', () => {
  let server: Server;
  let answer: (method: string) => { status: number; type?: string; body: string; location?: string };
  let asked: { method: string; authorization: string | undefined }[] = [];
  beforeAll((done) => {
    server = createServer((request, response) => {
      asked.push({ method: request.method ?? '', authorization: request.headers.authorization });
      const { status, type = 'text/xml', body, location } = answer(request.method ?? '');
      response.writeHead(status, { 'content-type': type, ...(location ? { location } : {}) });
      response.end(body);
    }).listen(0, '127.0.0.1', done);
  });
  afterAll((done) => void server.close(done));
  beforeEach(() => (asked = []));

  const add = async (path = '/cal/') => {
    const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}${path}`;
    const { body } = await use.mara.call('POST /api/calendar/links', {
      body: { url, username: `mara-${++serial}`, password: 'x' },
    });
    await use.house.work();
    const { items } = (await use.mara.call('GET /api/calendar/links')).body;
    const added = items.find((item) => item.id === body.id);
    await use.mara.call('DELETE /api/calendar/links/:id', { params: { id: body.id } });
    return added;
  };
  const isCalendar =
    '<d:multistatus xmlns:d="DAV:" xmlns:c="urn:ietf:params:xml:ns:caldav"><d:response><d:href>/cal/</d:href><d:propstat><d:prop><d:resourcetype><d:collection/><c:calendar/></d:resourcetype></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat></d:response></d:multistatus>';

  it.each([
    ['a web page', { status: 200, type: 'text/html', body: '<h1>Welcome</h1>' }],
    ['nothing', { status: 207, body: '' }],
    ['an answer that breaks off', { status: 207, body: isCalendar.slice(0, 120) }],
    ['an error', { status: 500, body: 'oops' }],
    ['what is larger than anybody’s', { status: 207, body: `<a>${'x'.repeat(9 * 1024 * 1024)}</a>` }],
    [
      'entities within entities',
      { status: 207, body: '<!DOCTYPE a [<!ENTITY x "xx"><!ENTITY y "&x;&x;">]><a>&y;</a>' },
    ],
  ])('%s is said to be trouble', async (_, said) => {
    answer = () => said;
    expect(await add()).toMatchObject({
      state: 'down',
      trouble: expect.stringMatching(/\S/) as string,
      events: 0,
    });
  });

  it('one that is a calendar first, and then a web page, takes nothing away', async () => {
    answer = (method) =>
      method === 'PROPFIND'
        ? { status: 207, body: isCalendar }
        : { status: 200, type: 'text/html', body: 'x' };
    expect(await add()).toMatchObject({
      state: 'down',
      trouble: expect.stringMatching(/makes no sense/) as string,
    });
  });

  it('one event that it does not take holds up no other', async () => {
    const titles = ['First', 'Second', 'Third'];
    for (const title of titles)
      await use.mara.call('POST /api/tasks', {
        body: { title, kind: 'meeting', dueAt: inDays(9, 9).iso, allDay: false },
      });
    await use.house.work();
    answer = (method) =>
      method === 'PUT'
        ? { status: 403, body: 'no' }
        : { status: 207, body: method === 'PROPFIND' ? isCalendar : '<d:multistatus xmlns:d="DAV:"/>' };
    expect(await add()).toMatchObject({
      state: 'down',
      trouble: expect.stringMatching(/change this/) as string,
    });
    expect(asked.filter(({ method }) => method === 'PUT')).toHaveLength(titles.length);
  });

  it('a password that is not taken is not tried again', async () => {
    answer = () => ({ status: 401, body: 'no' });
    expect(await add()).toMatchObject({ state: 'refused' });
    const tried = asked.length;
    await use.house.sequelize.query("SELECT graphile_worker.add_job('syncCalendars', payload => '{}')");
    await use.house.work();
    expect(asked.length).toBe(tried);
  });

  it('a name and password go to no other site, wherever an answer leads', async () => {
    answer = () => ({ status: 301, body: '', location: 'http://localhost:1/steal' });
    const led = await add('/');
    expect(led).toMatchObject({ state: 'down' });
    answer = () => ({
      status: 207,
      body: isCalendar
        .replace('<c:calendar/>', '')
        .replace(
          '<d:prop>',
          '<d:prop><d:current-user-principal><d:href>http://elsewhere.example/p/</d:href></d:current-user-principal>',
        ),
    });
    expect(await add('/')).toMatchObject({ state: 'down' });
  });
});

it.each([
  ['http to a server that no admin allowed', 'http://calendar.example/'],
  ['a private address', 'https://10.0.0.1/'],
  ['no address at all', 'calendar'],
  ['another scheme', 'file:///etc/passwd'],
])('%s is refused', async (_, url) => {
  const { status, body } = await use.mara.call('POST /api/calendar/links', {
    body: { url, username: `mara-${++serial}`, password: 'x' },
  });
  if (status !== 201) return expect(status).toBe(422);
  await use.house.work();
  const { items } = (await use.mara.call('GET /api/calendar/links')).body;
  expect(items.find((item) => item.id === body.id)).toMatchObject({ state: 'down' });
});

it('events that make no sense, or that the database does not take, hold up no others', async () => {
  await use.house.sequelize.query(`
    CREATE OR REPLACE FUNCTION refuse() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RAISE EXCEPTION 'not this one'; END $$;
    CREATE TRIGGER refuse BEFORE INSERT ON tasks FOR EACH ROW WHEN (NEW.title = 'Refused') EXECUTE FUNCTION refuse()`);
  await use.radicale.put(
    'ok.ics',
    outsideEvent(
      'ok@phone.example',
      'SUMMARY:Fine',
      `DTSTART:${inDays(3, 9).ics}`,
      `DTEND:${inDays(3, 10).ics}`,
    ),
  );
  const hostile = [
    ['SUMMARY:Never', `DTSTART:${inDays(3, 9).ics}`, 'RRULE:FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30'],
    [`SUMMARY:${'long '.repeat(2000)}`, `DTSTART:${inDays(4, 9).ics}`, `DESCRIPTION:${'x'.repeat(50_000)}`],
    ['SUMMARY:Refused', `DTSTART:${inDays(8, 9).ics}`],
    ['SUMMARY:\u0007bell', `DTSTART:${inDays(5, 9).ics}`],
    ['SUMMARY:Backwards', `DTSTART:${inDays(6, 9).ics}`, `DTEND:${inDays(5, 9).ics}`],
    [
      'SUMMARY:Everybody',
      `DTSTART:${inDays(7, 9).ics}`,
      ...Array.from({ length: 300 }, (_, at) => `ATTENDEE:mailto:a${at}@crowd.example`),
    ],
  ];
  for (const [at, lines] of hostile.entries())
    await use.radicale
      .put(`hostile-${at}.ics`, outsideEvent(`h${at}@phone.example`, ...lines))
      .catch(() => undefined);
  const cannot = '1 entry there cannot be read here.';
  expect(await use.sync()).toMatchObject({ state: 'current', trouble: cannot });
  expect(await titles()).toEqual(expect.arrayContaining(['Fine', 'Backwards', 'Everybody']));
  expect(await titles()).not.toContain('Refused');
  const files = await Promise.all((await use.radicale.files()).map((name) => use.radicale.get(name)));
  expect(await use.sync()).toMatchObject({ state: 'current', trouble: cannot });
  // Nothing of it is written back.
  expect(await Promise.all((await use.radicale.files()).map((name) => use.radicale.get(name)))).toEqual(
    files,
  );
  await use.house.sequelize.query('DROP TRIGGER refuse ON tasks; DROP FUNCTION refuse');
});
