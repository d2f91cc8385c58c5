import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

async function newLead(from: string, sign: string, body?: string): Promise<{ id: string; personId: string }> {
  const { body: capture } = await pell.call('POST /api/captures', { raw: mail({ from, sign, body }) });
  const { body: filed } = await pell.call('POST /api/captures/:id/filing', {
    params: { id: capture.id },
    body: { nextMove: capture.proposedMove, person: 'new' },
  });
  return { id: filed.lead?.id ?? '', personId: filed.person.id };
}
const lead = async (id: string) => (await pell.call('GET /api/leads/:id', { params: { id } })).body;
const proposed = async (id: string) =>
  (await pell.call('GET /api/leads/:id/conversion', { params: { id } })).body;
const convert = (id: string, body: object = {}) =>
  pell.call('POST /api/leads/:id/conversion', { params: { id }, body });
const deal = async (id: string) => (await pell.call('GET /api/deals/:id', { params: { id } })).body;
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const person = async (body: object) => (await pell.call('POST /api/people', { body })).body.person;
/** All that is in the tables a conversion writes to, by table. */
async function everything(): Promise<unknown> {
  const tables = [
    'people',
    'companies',
    'leads',
    'deals',
    'deal_roles',
    'tasks',
    'ledger_links',
    'lead_answers',
  ];
  const all = await Promise.all(
    tables.map(async (table) => {
      const [rows] = await house.sequelize.query(
        `SELECT to_jsonb(t) - 'version' - 'updated_at' AS row FROM ${table} t ORDER BY t.id`,
      );
      return [table, rows];
    }),
  );
  return Object.fromEntries(all as [string, unknown][]);
}

describe('what a conversion proposes', () => {
  it('is the company by domain and name with reasons, everybody with a part, and all that is carried along', async () => {
    const { id, personId } = await newLead(
      'Wyn Hale <wyn@tidemill.example>',
      'Wyn Hale\nOwner\nTidemill Bakery',
    );
    const current = (await lead(id)).company;
    await person({ fullName: 'Mo Stone', jobTitle: 'Head of Finance', companyId: current?.id });
    await pell.call('POST /api/companies', { body: { name: 'Tidemil Bakery' } });
    const [need] = (await lead(id)).answers;
    await pell.call('PUT /api/leads/:id/answers/:questionId', {
      params: { id, questionId: need?.questionId ?? '' },
      body: { answer: need?.suggestion ?? '', from: need?.from },
    });
    const found = await proposed(id);
    expect(found.company.current?.id).toBe(current?.id);
    expect(found.company.matches[0]).toMatchObject({ label: 'Tidemil Bakery' });
    expect(found.company.matches[0]?.reasons.length).toBeGreaterThan(0);
    expect(found.people.map((person) => [person.name, person.role, person.isProposed])).toEqual([
      ['Wyn Hale', 'decides', true],
      ['Mo Stone', 'pays', false],
    ]);
    expect(found.people[0]?.id).toBe(personId);
    expect(found.carried).toEqual([
      { what: 'ledger entry', count: 1, names: [] },
      { what: 'message as it came', count: 1, names: [] },
      { what: 'next move', count: 1, names: ['Send the quote'] },
      { what: 'answer', count: 1, names: ['Need'] },
    ]);
  });

  it('is the existing person and the open deal they have a part in, so that none is doubled', async () => {
    const known = await person({ fullName: 'Greta Lindholm', companyName: 'Lindholm Florists' });
    const open = (
      await pell.call('POST /api/deals', { body: { title: 'Lindholm, 2 bikes', personId: known.id } })
    ).body.deal;
    const { id } = await newLead('Greta Lindholm <greta@post.example>', 'Greta Lindholm\nLindholm Florists');
    const found = await proposed(id);
    expect(found.person.matches.map((match) => match.id)).toContain(known.id);
    expect(found.openDeals).toMatchObject([
      { id: open.id, why: 'they have a part in it', stage: 'Heard out' },
    ]);
  });
});

describe('a conversion with everything', () => {
  it('links it all in one transaction, and is taken back to the last row', async () => {
    const finance = await person({ fullName: 'Ada Finance', jobTitle: 'CFO' });
    const known = await person({ fullName: 'Tove Aker', jobTitle: 'Owner' });
    const { body: firm } = await pell.call('POST /api/companies', { body: { name: 'Aker Couriers' } });
    const { id, personId } = await newLead('T Aker <tove@akercouriers.example>', 'T Aker\nAker');
    const [need] = (await lead(id)).answers;
    await pell.call('PUT /api/leads/:id/answers/:questionId', {
      params: { id, questionId: need?.questionId ?? '' },
      body: { answer: 'Ten bikes' },
    });
    const before = await everything();
    const { status, body } = await convert(id, {
      title: 'Aker, ten',
      personId: known.id,
      companyId: firm.company.id,
      people: [
        { personId: finance.id, role: 'pays' },
        { personId, role: 'uses' },
      ],
    });
    expect(status).toBe(201);
    expect(await deal(body.deal.id)).toMatchObject({
      title: 'Aker, ten',
      company: { name: 'Aker Couriers' },
      people: [
        { name: 'Tove Aker', role: 'decides' },
        { name: 'Ada Finance', role: 'pays' },
        { id: personId, role: 'uses' },
      ],
      nextMove: { title: 'Send the quote', person: { id: known.id } },
    });
    expect(await lead(id)).toMatchObject({ person: { id: known.id }, deal: { id: body.deal.id } });
    const ledger = await pell.call('GET /api/ledger', { query: { personId: known.id, kind: 'mail' } });
    expect(ledger.body.items).toHaveLength(1);
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await everything()).toEqual(before);
  });

  it('goes to the open deal that is there, which keeps what it has', async () => {
    const known = await person({ fullName: 'Ola Dahl', companyName: 'Dahl Catering' });
    const open = (
      await pell.call('POST /api/deals', {
        body: { title: 'Dahl, 3 bikes', personId: known.id, amountMinor: 900 },
      })
    ).body.deal;
    const { id } = await newLead('Ola Dahl <ola@dahl.example>', 'Ola Dahl\nDahl Catering');
    const before = await everything();
    const { status, body } = await convert(id, { dealId: open.id, personId: known.id, role: 'influences' });
    expect([status, body.created, body.deal.id]).toEqual([200, false, open.id]);
    expect(await deal(open.id)).toMatchObject({
      title: 'Dahl, 3 bikes',
      amountMinor: 900,
      people: [
        { id: known.id, role: 'decides' },
        { id: known.id, role: 'influences' },
      ],
    });
    const onDeal = await pell.call('GET /api/ledger', { query: { dealId: open.id, kind: 'mail' } });
    expect(onDeal.body.items).toHaveLength(1);
    expect((await undo(body.eventId)).status).toBe(200);
    expect(await everything()).toEqual(before);
    // What is written on a lead that joined a deal of an earlier lead stands on the deal too.
    const first = await newLead('Ola Dahl <first@dahl.example>', 'Ola Dahl\nDahl Catering');
    for (const one of [first.id, id]) await convert(one, { dealId: open.id });
    await pell.call('POST /api/ledger', { body: { line: 'They have nine vans', about: { leadId: id } } });
    const said = (await pell.call('GET /api/ledger', { query: { dealId: open.id } })).body.items;
    expect(said.map((entry) => entry.headline)).toContain('They have nine vans');
    const stages = (await pell.call('GET /api/stages')).body.items;
    const { version } = await deal(open.id);
    await pell.call('PATCH /api/deals/:id', {
      params: { id: open.id },
      body: { version, stageId: stages[2]?.id },
    });
    const third = await newLead('Ola Dahl <third@dahl.example>', 'Ola Dahl\nDahl Catering');
    expect((await convert(third.id, { dealId: open.id })).status).toBe(409);
  });

  it.each([
    [{ companyId: crypto.randomUUID() }, 'companyId'],
    [{ personId: crypto.randomUUID() }, 'personId'],
    [{ dealId: crypto.randomUUID() }, 'dealId'],
    [{ people: [{ personId: crypto.randomUUID(), role: 'pays' }] }, 'people'],
  ])('refuses %j and writes nothing', async (body, field) => {
    const { id } = await newLead(`Cy Nobody <${field}@nobody.example>`, 'Cy Nobody');
    const before = await everything();
    const { status, body: problem } = await convert(id, body);
    expect([status, Object.keys(problem.fields ?? {})]).toEqual([422, [field]]);
    expect(await everything()).toEqual(before);
  });
});

describe('an answer', () => {
  it('is proposed as the sentence that answers, and keeps where it was taken from', async () => {
    const { id } = await newLead(
      'Ed Reads <ed@reads.example>',
      'Ed Reads',
      'We need six trailers for our rounds. Our budget is 12,000 euros.',
    );
    const [need, budget] = (await lead(id)).answers;
    expect([need?.suggestion, budget?.suggestion]).toEqual([
      'We need six trailers for our rounds.',
      'Our budget is 12,000 euros.',
    ]);
    const put = (from: unknown) =>
      pell.call('PUT /api/leads/:id/answers/:questionId', {
        params: { id, questionId: budget?.questionId ?? '' },
        body: { answer: budget?.suggestion ?? '', from },
      });
    expect((await put({ captureId: crypto.randomUUID(), span: budget?.from?.span })).status).toBe(422);
    expect((await put(budget?.from)).status).toBe(200);
    const [, kept] = (await lead(id)).answers;
    expect(kept).toMatchObject({
      answer: 'Our budget is 12,000 euros.',
      evidence: budget?.from,
      suggestion: null,
    });
    const capture = (
      await pell.call('GET /api/captures/:id', { params: { id: kept?.evidence?.captureId ?? '' } })
    ).body;
    const { start, end } = kept?.evidence?.span ?? { start: 0, end: 0 };
    expect(capture.text.slice(start, end)).toBe('Our budget is 12,000 euros.');
  });
});
