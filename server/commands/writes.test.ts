import { Person } from '../db/models/people';
import { runInTransaction } from './context';
import { mail, type Client, useHouse } from '../testing/harness';

const { house, pell, ines } = useHouse();

const addPerson = async (fullName: string) =>
  (await pell.call('POST /api/people', { body: { fullName } })).body.person;

describe('two at one record', () => {
  it('the second to save is told what stands there, and nothing is lost', async () => {
    const { id } = await addPerson('Dana Whitlock');
    const { version } = (await pell.call('GET /api/people/:id', { params: { id } })).body;
    const save = (client: Client, at: number, jobTitle: string) =>
      client.call('PATCH /api/people/:id', { params: { id }, body: { version: at, jobTitle } });
    expect((await save(pell, version, 'Buyer')).status).toBe(200);
    const clash = await save(ines, version, 'Chef');
    expect([clash.status, clash.body.current]).toMatchObject([
      409,
      { jobTitle: 'Buyer', version: version + 1 },
    ]);
    expect((await pell.call('GET /api/people/:id', { params: { id } })).body.jobTitle.value).toBe('Buyer');
    expect((await save(ines, version + 1, 'Chef')).status).toBe(200);
  });

  it('a hundred asking at once for one address make one person', async () => {
    const before = await house.count('people');
    const answers = await Promise.all(
      Array.from({ length: 100 }, () =>
        pell.call('POST /api/people/find-or-create', {
          body: { email: 'One.Only@crowd.example', fullName: 'One Only' },
        }),
      ),
    );
    expect(answers.map((answer) => answer.status).every((status) => status === 200)).toBe(true);
    expect(answers.filter((answer) => answer.body.created)).toHaveLength(1);
    expect(await house.count('people')).toBe(before + 1);
  });

  it('many filing mails of one new firm at once make one company', async () => {
    const captures = await Promise.all(
      Array.from({ length: 8 }, (_, index) =>
        pell.call('POST /api/captures', {
          raw: mail({
            from: `Rider ${'ABCDEFGH'[index] ?? ''}son <r${index}@newfirm.example>`,
            sign: `Rider ${'ABCDEFGH'[index] ?? ''}son\nNewfirm Couriers`,
          }),
        }),
      ),
    );
    const filed = await Promise.all(
      captures.map(({ body }) =>
        pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: { person: 'new' } }),
      ),
    );
    expect(filed.map((one) => one.status)).toEqual(Array(8).fill(201));
    expect(new Set(filed.map((one) => one.body.company?.id)).size).toBe(1);
  });
});

describe('an Idempotency-Key', () => {
  it('gives a retry the first answer and does nothing twice', async () => {
    const key = { 'idempotency-key': crypto.randomUUID() };
    const post = () => pell.call('POST /api/people', { body: { fullName: 'Nils Havneby' }, headers: key });
    const before = await house.count('people');
    const [first, ...others] = await Promise.all([post(), post(), post()]);
    for (const other of [...others, await post()])
      expect([other.status, other.body]).toEqual([first.status, first.body]);
    expect(await house.count('people')).toBe(before + 1);
  });

  it('is refused for another request, and is not used up by one that failed', async () => {
    const headers = { 'idempotency-key': crypto.randomUUID() };
    expect(
      (
        await pell.call('POST /api/people', {
          body: { fullName: 'A Name', email: 'one.only@crowd.example' },
          headers,
        })
      ).status,
    ).toBe(409);
    expect((await pell.call('POST /api/people', { body: { fullName: 'A Name' }, headers })).status).toBe(201);
    expect((await pell.call('POST /api/people', { body: { fullName: 'Another' }, headers })).status).toBe(
      422,
    );
  });

  it('works for a filing', async () => {
    const { body } = await pell.call('POST /api/captures', {
      raw: mail({ from: 'Sofia Lindqvist <sofia@norrsken.example>', sign: 'Sofia Lindqvist' }),
    });
    const headers = { 'idempotency-key': crypto.randomUUID() };
    const fileIt = () =>
      pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: {}, headers });
    const first = await fileIt();
    const again = await fileIt();
    expect([again.status, again.body, again.headers['idempotent-replay']]).toEqual([201, first.body, 'true']);
  });
});

describe('the composer', () => {
  it('shows what a line would save, saves it, and takes it back', async () => {
    const { id } = await addPerson('Rui Figueira');
    const about = { personId: id };
    const line = 'call Thursday 11am about the quote';
    const { body } = await pell.call('POST /api/composer', { body: { line, about } });
    expect(body.nextMove).toMatchObject({
      title: 'Call about the quote',
      kind: 'call',
      allDay: false,
      assignee: 'Pell Garrick',
    });
    expect(body.nextMove?.dueAt).toMatch(/T11:00:00/);
    // What is typed before a record is opened is read all the same, and saved on none.
    const loose = await pell.call('POST /api/composer', { body: { line, about: {} } });
    expect([loose.status, loose.body.nextMove]).toEqual([200, body.nextMove]);
    expect((await pell.call('POST /api/ledger', { body: { line, about: {} } })).status).toBe(422);
    const saved = await pell.call('POST /api/ledger', { body: { line, about } });
    expect(saved.body.saved).toEqual(['next move']);
    expect((await pell.call('GET /api/people/:id', { params: { id } })).body.nextMove?.title).toBe(
      'Call about the quote',
    );
    await pell.call('POST /api/events/:id/undo', { params: { id: saved.body.eventId ?? '' } });
    expect((await pell.call('GET /api/people/:id', { params: { id } })).body.nextMove).toBeNull();
  });

  it('refuses a line that would become a header or more lines', async () => {
    const { id } = await addPerson('Petra Nova');
    for (const line of ['hello\r\nBcc: all@crowd.example', 'a\u0000b', 'x\u2028y']) {
      const { status, body } = await pell.call('POST /api/ledger', {
        body: { line, about: { personId: id } },
      });
      expect([status, Object.keys(body.fields as object)]).toEqual([422, ['line']]);
    }
  });

  it('refuses half a character, wherever it stands', async () => {
    const { status, body } = await pell.call('POST /api/people', {
      body: { fullName: 'Half Pair', jobTitle: 'Buyer \ud800' },
    });
    expect([status, body.fields]).toEqual([422, { jobTitle: 'is not well-formed text' }]);
    const whole = await pell.call('POST /api/people', { body: { fullName: 'Whole Pair 🦊' } });
    expect(whole.body.person.fullName).toBe('Whole Pair 🦊');
  });
});

describe('the round', () => {
  it('lists what is due, overdue first, and a done call goes into the ledger', async () => {
    const { id } = await addPerson('Hugo Marsden');
    const set = (title: string, days: number) =>
      pell.call('POST /api/tasks', {
        body: {
          title,
          kind: 'call',
          dueAt: new Date(Date.now() + days * 86_400_000).toISOString(),
          allDay: true,
          personId: id,
        },
      });
    await set('Later', 3);
    await set('Now', 0);
    const { body } = await set('Long ago', -9);
    const round = (await pell.call('GET /api/tasks')).body.items.filter((task) => task.person?.id === id);
    expect(round.map((task) => [task.title, task.state])).toEqual([
      ['Long ago', 'overdue'],
      ['Now', 'today'],
      ['Later', 'later'],
    ]);
    await pell.call('PATCH /api/tasks/:id', { params: { id: body.task.id }, body: { done: true } });
    expect(
      (await pell.call('GET /api/ledger', { query: { personId: id } })).body.items.map((entry) => [
        entry.kind,
        entry.headline,
      ]),
    ).toEqual([['call', 'Long ago']]);
  });
});

describe('finding', () => {
  it.each([
    ['duar', 'Ines Duarte'],
    ['DUARTE inês', 'Ines Duarte'],
    ['ines@pad', 'Ines Duarte'],
    ['910 555 014', 'Ines Duarte'],
    ['padariasol', 'Padaria Sol'],
  ])('%s finds %s', async (q, label) => {
    const { body } = await pell.call('POST /api/captures', { raw: mail() });
    await pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: {} });
    expect(
      (await pell.call('GET /api/search', { query: { q } })).body.items.map((hit) => hit.label),
    ).toContain(label);
  });
  it('is not confused by wildcards', async () =>
    expect((await pell.call('GET /api/search', { query: { q: '%' } })).body.items).toEqual([]));
});

it('pages through people without missing or repeating one', async () => {
  const seen: string[] = [];
  let cursor = '';
  do {
    const { body } = await pell.call('GET /api/people', {
      query: { limit: '3', ...(cursor ? { cursor } : {}) },
    });
    seen.push(...body.items.map((item) => item.id));
    cursor = body.next ?? '';
  } while (cursor);
  expect(new Set(seen).size).toBe(seen.length);
  expect(seen.length).toBe(await house.count('people'));
  expect((await pell.call('GET /api/people', { query: { cursor: 'made-up' } })).status).toBe(422);
});

it('events cannot be changed', async () => {
  await expect(house.sequelize.query('DELETE FROM events')).rejects.toThrow('append-only');
});

describe('two commands that wait for each other', () => {
  it('are both done, each once, the one that was ended again', async () => {
    const [ann, bo] = [await addPerson('Ann Crossed'), await addPerson('Bo Crossed')];
    let runs = 0;
    let bothHold: () => void = () => undefined;
    const held = new Promise<void>((resolve) => (bothHold = resolve));
    const touch = (first: string, second: string) =>
      runInTransaction(house.tools, null, async (context) => {
        const one = await Person.findByPk(first, {
          transaction: context.tx,
          lock: true,
          rejectOnEmpty: true,
        });
        await context.write.update(one, { background: `first of ${++runs}` });
        if (runs >= 2) bothHold();
        await held;
        const two = await Person.findByPk(second, {
          transaction: context.tx,
          lock: true,
          rejectOnEmpty: true,
        });
        await context.write.update(two, { address: `second of ${runs}` });
        await context.write.event('cross', 'Crossed', null);
      });
    await Promise.all([touch(ann.id, bo.id), touch(bo.id, ann.id)]);
    expect(runs).toBe(3);
    const [events] = await house.sequelize.query(
      "SELECT count(*)::int AS n FROM events WHERE command = 'cross'",
    );
    expect((events[0] as { n: number }).n).toBe(2);
  });
});
