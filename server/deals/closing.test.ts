import { useHouse } from '../testing/harness';

const { house, pell, mara } = useHouse();

const person = async (fullName: string) =>
  (
    await pell.call('POST /api/people', {
      body: { fullName, email: `${fullName.replace(' ', '.')}@won.example` },
    })
  ).body.person.id;
const deal = async (title: string, personId: string) =>
  (await pell.call('POST /api/deals', { body: { title, personId } })).body.deal;
const stage = async (kind: string) =>
  (await pell.call('GET /api/stages')).body.items.find((item) => item.kind === kind)?.id ?? '';
const now = () => new Date(Date.now() + 86_400_000).toISOString();
const openMoves = async () => (await pell.call('GET /api/tasks')).body.items.length;

it('winning settles the moves that were to win it and makes a customer; its undo brings both back', async () => {
  const id = await person('Wanda Won');
  const made = await deal('Eight bikes', id);
  await pell.call('POST /api/tasks', {
    body: { title: 'Send the terms', kind: 'mail', dueAt: now(), allDay: false, dealId: made.id },
  });
  const before = await openMoves();
  const { body } = await pell.call('PATCH /api/deals/:id', {
    params: { id: made.id },
    body: { version: made.version, stageId: await stage('won') },
  });
  const standing = async () => (await pell.call('GET /api/people/:id', { params: { id } })).body.standing;
  expect([await openMoves(), await standing()]).toEqual([before - 1, 'customer']);
  await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect([await openMoves(), await standing()]).not.toEqual([before - 1, 'customer']);
});

it('a deal of a company that we do not have makes the company', async () => {
  const { body } = await pell.call('POST /api/deals', {
    body: { title: 'New firm', companyName: 'Brand New Ltd' },
  });
  expect(body.deal.company?.name).toBe('Brand New Ltd');
});

it('"Done" on a mail that was to be sent says that it is done and not that a mail was sent', async () => {
  const id = await person('Norma Not-Sent');
  const { body } = await pell.call('POST /api/tasks', {
    body: { title: 'Send the quote', kind: 'mail', dueAt: now(), allDay: false, personId: id },
  });
  await pell.call('PATCH /api/tasks/:id', {
    params: { id: body.task.id },
    body: { version: body.task.version, done: true },
  });
  const { body: ledger } = await pell.call('GET /api/ledger', { query: { personId: id } });
  expect(ledger.items).toMatchObject([{ kind: 'task', side: 'within', headline: 'Done: Send the quote' }]);
  expect(ledger.turn.turn).not.toBe('theirs');
});

describe('what the composer writes', () => {
  const write = async (line: string, about: object) =>
    pell.call('POST /api/ledger', { body: { line, about } });
  it('a call of yesterday that nobody answered is one of yesterday, settles no turn and warms nobody', async () => {
    const id = await person('Yara Yesterday');
    await write('called yesterday at 3pm, no answer', { personId: id });
    const { body } = await pell.call('GET /api/ledger', { query: { personId: id } });
    const [entry] = body.items;
    expect(entry).toMatchObject({ kind: 'call', outcome: 'no answer' });
    const hoursAgo = (Date.now() - Date.parse(entry?.at ?? '')) / 3_600_000;
    expect(hoursAgo).toBeGreaterThan(8);
    expect(hoursAgo).toBeLessThan(34);
    expect(body.turn.because).not.toBe('last spoke');
  });
  it('a sum with several open deals changes none of them, and asks which', async () => {
    const id = await person('Sam Several');
    const [one, two] = [await deal('First of Sam', id), await deal('Second of Sam', id)];
    const read = async (about: object) =>
      (await pell.call('POST /api/composer', { body: { line: 'budget 48k', about } })).body;
    const asked = await read({ personId: id });
    expect(asked.dealAmount).toBeNull();
    expect(asked.dealChoices.map((each) => each.id).sort()).toEqual([one.id, two.id].sort());
    await write('budget 48k', { personId: id });
    const amount = async (dealId: string) =>
      (await pell.call('GET /api/deals/:id', { params: { id: dealId } })).body.amountMinor;
    expect([await amount(one.id), await amount(two.id)]).toEqual([null, null]);
    expect((await read({ personId: id, dealId: one.id })).dealAmount?.dealId).toBe(one.id);
    await write('budget 48k', { personId: id, dealId: one.id });
    expect([await amount(one.id), await amount(two.id)]).toEqual([4_800_000, null]);
  });
  it('the turn of a person and of her lead are one', async () => {
    const id = await person('Tess Turn');
    const { body: lead } = await pell.call('POST /api/leads', {
      body: { title: 'Bikes', personId: id, source: 'fair' },
    });
    await write('wrote her about the price', { personId: id });
    const of = async (query: Record<string, string>) =>
      (await pell.call('GET /api/ledger', { query })).body.turn;
    expect(
      await of({
        leadId: String((lead as { lead?: { id: string } }).lead?.id ?? (lead as { id?: string }).id),
      }),
    ).toEqual(await of({ personId: id }));
  });
});

describe('undo', () => {
  it('says what stands on a record, also where there is very much of it', async () => {
    const { body } = await pell.call('POST /api/people', { body: { fullName: 'Much Built' } });
    for (let count = 0; count < 30; count++)
      await pell.call('POST /api/ledger', {
        body: { line: `note ${count}`, about: { personId: body.person.id } },
      });
    const refused = await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
    expect([refused.status, refused.body.type]).toEqual([409, 'urn:emporikon:problem:cannot-undo']);
  });
  it('takes as back a form with its submission left where it is', async () => {
    const { body: made } = await mara.call('POST /api/forms', {
      body: {
        name: 'Ask us',
        slug: 'ask-us-undo',
        kind: 'public',
        fields: [
          { name: 'name', label: 'Name', kind: 'line', field: 'fullName', required: true },
          { name: 'email', label: 'Email', kind: 'line', field: 'email', required: true },
        ],
        consent: 'You may write to me',
        thanks: 'Thanks',
        tags: ['from the form'],
        source: 'website',
        leadStatus: 'working',
        filesItself: false,
        recognise: 'email',
      },
    });
    await house.app.inject({
      method: 'POST',
      url: '/f/ask-us-undo',
      payload: new URLSearchParams({
        name: 'Flora Form',
        email: 'flora@form.example',
        agreed: 'yes',
      }).toString(),
      headers: { 'content-type': 'application/x-www-form-urlencoded' },
    });
    const { body: waiting } = await pell.call('GET /api/captures');
    const capture = waiting.items.find((item) => item.kind === 'form');
    const filed = await pell.call('POST /api/captures/:id/filing', {
      params: { id: capture?.id ?? '' },
      body: { person: 'new' },
    });
    // What the form is set to do is done from Arrivals too.
    const { body: lead } = await pell.call('GET /api/leads/:id', {
      params: { id: filed.body.lead?.id ?? '' },
    });
    expect([filed.status, lead]).toMatchObject([201, { source: 'website', status: 'working' }]);
    const { body: person } = await pell.call('GET /api/people/:id', { params: { id: filed.body.person.id } });
    expect(person.tags).toEqual(['from the form']);
    const undone = await pell.call('POST /api/events/:id/undo', { params: { id: filed.body.eventId ?? '' } });
    expect(undone.status).toBe(200);
    const [rows] = await house.sequelize.query('SELECT confirm_hash, person_id FROM form_submissions');
    expect(rows).toEqual([{ confirm_hash: expect.any(String), person_id: null }]);
    expect(made.form.name).toBe('Ask us');
  });
});

it('a call does not make a second deal beside what is open, unless it is said that it does', async () => {
  const id = await person('Carl Caller');
  await pell.call('POST /api/leads', { body: { title: 'Carl wants bikes', personId: id, source: 'fair' } });
  const sheet = (more: object) =>
    pell.call('POST /api/call-sheets', {
      body: {
        direction: 'in',
        person: id,
        text: 'wants eight for 40k',
        said: 'wants eight',
        deal: { title: 'Eight bikes', amountMinor: 4_000_000, currency: 'EUR', ...more },
      },
    });
  const asked = await sheet({});
  expect([asked.status, asked.body.reasons]).toEqual([409, ['the lead “Carl wants bikes”']]);
  const { body: leads } = await pell.call('GET /api/leads', { query: { q: 'Carl' } });
  const lead = leads.items.find((item) => item.person.id === id);
  const saved = await sheet({ leadId: lead?.id });
  expect(saved.status).toBe(201);
  const { body: after } = await pell.call('GET /api/leads/:id', { params: { id: lead?.id ?? '' } });
  expect(after.status).toBe('converted');
  expect(
    (await pell.call('POST /api/events/:id/undo', { params: { id: saved.body.eventId ?? '' } })).status,
  ).toBe(200);
});

it('the note of a call is that of whoever is on it', async () => {
  const ines = await house.as('ines@wharfside.example');
  await house.sequelize.query(
    `INSERT INTO calls (id, exchange_id, direction, from_number, to_number, user_id, state, started_at)
     SELECT gen_random_uuid(), 'call-1', 'in', '+351910555014', '+442079460100', id, 'answered', now() FROM users WHERE email LIKE 'pell%'`,
  );
  const { body } = await pell.call('GET /api/calls');
  const params = { id: body.items[0]?.id ?? '' };
  expect((await pell.call('PATCH /api/calls/:id', { params, body: { note: 'mine' } })).status).toBe(200);
  expect((await ines.call('PATCH /api/calls/:id', { params, body: { note: 'hers' } })).status).toBe(403);
});
