import { QueryTypes } from 'sequelize';
import { LookUpRules } from '../db/models/lookUps';
import { mail } from '../testing/harness';
import { openLookUpHouse, type LookUpHouse } from '../testing/lookUps';

let here: LookUpHouse;
beforeAll(async () => (here = await openLookUpHouse()));
afterAll(() => here.close());

describe('a look-up', () => {
  it('shows its order with gain and cost before, fills blanks with claims that name the source, and is logged', async () => {
    const { personId, companyId } = await here.somebody();
    const plan = (await here.pell.call('POST /api/look-ups/plan', { body: { people: [personId] } })).body;
    expect(plan.subjects).toBe(1);
    expect(plan.steps.length).toBeGreaterThan(1);
    for (const step of plan.steps) expect(step.net).toBeCloseTo(step.gain - step.cost);
    expect(plan.expected).toBeGreaterThan(0);
    expect(plan.most).toBeGreaterThanOrEqual(plan.expected);
    const before = await here.gaps({ personId });
    const run = await here.lookUp(here.pell, { people: [personId] });
    expect(run).toMatchObject({ state: 'done', done: 1, total: 1 });
    const after = await here.gaps({ personId });
    expect(after.score).toBeGreaterThan(before.score);
    const dossier = await here.company(companyId);
    const claim = dossier.claims.find((claim) => claim.source === 'Company register');
    expect(claim?.confidence).toBeGreaterThan(0.3);
    const log = (await here.pell.call('GET /api/look-ups')).body.items.filter(
      (row) => row.person?.id === personId,
    );
    expect(log.length).toBe(await here.asked(`person_id = '${personId}'`));
    expect(log.reduce((sum, row) => sum + row.price, 0)).toBe(run.spent);
    expect(log[0]?.by?.name).toBe('Pell Garrick');
    const answered = log.find((row) => row.source === claim?.source || row.state === 'found');
    const { body: asked } = await here.pell.call('GET /api/look-ups/:id', {
      params: { id: answered?.id ?? '' },
    });
    expect(asked.facts.every((fact) => fact.label && fact.value && fact.confidence > 0)).toBe(true);
    expect(asked.facts.length).toBeGreaterThan(0);
    const rules = (await here.pell.call('GET /api/look-ups/rules')).body;
    expect(rules.spent).toBe(rules.spentByMe);
  });

  it('takes a kept answer for nothing the second time, and asks again when it is too old', async () => {
    const { personId } = await here.somebody();
    await here.lookUp(here.pell, { people: [personId] });
    const [questions, spent] = [
      await here.asked(),
      (await here.pell.call('GET /api/look-ups/rules')).body.spent,
    ];
    await here.lookUp(here.ines, { people: [personId] });
    expect([await here.asked(), (await here.pell.call('GET /api/look-ups/rules')).body.spent]).toEqual([
      questions,
      spent,
    ]);
    await here.setRules({ keepDays: 0 });
    await here.lookUp(here.ines, { people: [personId] });
    await here.setRules({ keepDays: 90 });
    expect(await here.asked()).toBeGreaterThan(questions);
  });

  it('puts one question once, however many ask it at the same time', async () => {
    const { companyId } = await here.somebody();
    const two = [
      (await here.pell.call('POST /api/people', { body: { fullName: 'Ann One', companyId } })).body.person.id,
      (await here.pell.call('POST /api/people', { body: { fullName: 'Ben Two', companyId } })).body.person.id,
    ];
    const domain = (await here.company(companyId)).domain ?? '';
    await here.lookUp(here.pell, { people: two });
    expect(await here.asked(`source = 'register' AND question->>'domain' = '${domain}'`)).toBe(1);
  });

  it('never overwrites what a hand wrote: it is put beside it with both sources, taken or refused for good', async () => {
    const { companyId } = await here.somebody({ domain: 'sunbakery.example' });
    await here.pell.call('PATCH /api/companies/:id', {
      params: { id: companyId },
      body: { version: 1, industry: 'Puppet theatres', employees: 3 },
    });
    await here.lookUp(here.pell, { companies: [companyId] });
    expect(await here.company(companyId)).toMatchObject({ industry: 'Puppet theatres', employees: 3 });
    const { suggestions } = await here.gaps({ companyId });
    const industry = suggestions.find((suggestion) => suggestion.claim.field === 'industry');
    expect(industry).toMatchObject({
      held: 'Puppet theatres',
      heldSource: 'entered by hand',
      claim: { value: 'Bakeries', source: 'Company register' },
    });
    const id = industry?.claim.id ?? '';
    const taken = await here.pell.call('POST /api/suggestions/:id/acceptance', { params: { id } });
    expect((await here.company(companyId)).industry).toBe('Bakeries');
    expect((await here.pell.call('POST /api/suggestions/:id/acceptance', { params: { id } })).status).toBe(
      409,
    );
    await here.pell.call('POST /api/events/:id/undo', { params: { id: taken.body.eventId ?? '' } });
    expect((await here.company(companyId)).industry).toBe('Puppet theatres');
    expect((await here.pell.call('POST /api/suggestions/:id/refusal', { params: { id } })).status).toBe(200);
    await here.setRules({ keepDays: 0 });
    await here.lookUp(here.pell, { companies: [companyId] });
    await here.setRules({ keepDays: 90 });
    expect(
      (await here.gaps({ companyId })).suggestions.filter(
        (suggestion) => suggestion.claim.field === 'industry',
      ),
    ).toEqual([]);
    const register = (await here.pell.call('GET /api/look-ups/sources')).body.items.find(
      (item) => item.key === 'register',
    );
    expect(register?.decided).toBeGreaterThan(register?.kept ?? Infinity);
  });

  it('fills nothing by itself when the house does not want that', async () => {
    const { companyId } = await here.somebody();
    await here.setRules({ fillBlanks: false });
    await here.lookUp(here.pell, { companies: [companyId] });
    await here.setRules({ fillBlanks: true });
    const { industry, legalName } = await here.company(companyId);
    expect([industry, legalName]).toEqual([null, null]);
    expect(
      (await here.gaps({ companyId })).suggestions.every(
        (suggestion) => suggestion.held === null || suggestion.held,
      ),
    ).toBe(true);
  });
});

describe('the allowance', () => {
  it('of the house and of each user is never overspent, by two reps at once', async () => {
    const [a, b] = [await here.somebody(), await here.somebody()];
    const { spent } = (await here.pell.call('GET /api/look-ups/rules')).body;
    await here.setRules({ allowance: spent + 13 });
    const runs = await Promise.all([
      here.pell.call('POST /api/look-ups', { body: { people: [a.personId] } }),
      here.ines.call('POST /api/look-ups', { body: { people: [b.personId] } }),
    ]);
    await Promise.all([here.house.work(), here.house.work()]);
    const now = (await here.pell.call('GET /api/look-ups/rules')).body;
    expect(now.spent).toBeLessThanOrEqual(spent + 13);
    expect(await here.asked("state = 'asking'")).toBe(0);
    const ends = await Promise.all(
      runs.map(
        async ({ body }) =>
          (await here.pell.call('GET /api/look-ups/runs/:id', { params: { id: body.id } })).body,
      ),
    );
    expect(
      ends
        .map((end) => end.trouble)
        .filter(Boolean)
        .join(' '),
    ).toMatch(/allowance of this month is used up/);
    await here.setRules({ allowance: 100_000, perUser: now.spentByMe });
    const c = await here.somebody();
    expect(await here.lookUp(here.pell, { people: [c.personId] })).toMatchObject({
      state: 'stopped',
      spent: 0,
      trouble: expect.stringMatching(/your share/i),
    });
    await here.setRules({ perUser: null });
  });
  it('set aside adds up to what was spent, whatever happened', async () => {
    const [sums] = await here.house.sequelize.query<{ rows: number; purse: number }>(
      "SELECT (SELECT coalesce(sum(price), 0)::int FROM look_ups) AS rows, (SELECT spent FROM look_up_purses WHERE who = 'house') AS purse",
      { type: QueryTypes.SELECT },
    );
    expect(sums?.purse).toBe(sums?.rows);
  });
});

describe('by itself', () => {
  it('somebody new is looked up seconds after, and taking the filing back takes that back too', async () => {
    await here.setRules({ automatic: true });
    const { body } = await here.pell.call('POST /api/captures', {
      raw: mail({
        from: 'Ada Quick <ada@quickbakery.example>',
        sign: 'Ada Quick\nOwner\nQuick Bakery\nM +44 7700 900 140',
      }),
    });
    const filed = (
      await here.pell.call('POST /api/captures/:id/filing', {
        params: { id: body.id },
        body: { nextMove: body.proposedMove },
      })
    ).body;
    await here.house.work();
    await here.setRules({ automatic: false });
    expect((await here.person(filed.person.id)).timeZone).toBe('Europe/London');
    expect(await here.asked(`person_id = '${filed.person.id}' AND asked_by IS NULL`)).toBeGreaterThan(0);
    const back = await here.pell.call('POST /api/events/:id/undo', { params: { id: filed.eventId ?? '' } });
    expect([back.status, back.body.detail]).toEqual([200, undefined]);
    expect((await here.pell.call('GET /api/people/:id', { params: { id: filed.person.id } })).status).toBe(
      404,
    );
  });

  it('asks nobody where the house does not want it, but works out company, country and time zone', async () => {
    const made = (
      await here.pell.call('POST /api/people', {
        body: { fullName: 'Rui Costa', email: 'rui.costa@ruipao.example', phone: '+351 910 555 101' },
      })
    ).body.person;
    const questions = await here.asked();
    await here.pell.call('POST /api/leads', { body: { title: 'Rui, bikes', personId: made.id } });
    await here.house.work();
    expect(await here.asked()).toBe(questions);
    const dossier = await here.person(made.id);
    expect(dossier).toMatchObject({ timeZone: 'Europe/Lisbon', company: { name: 'Ruipao' } });
    expect(await here.company(dossier.company?.id ?? '')).toMatchObject({
      country: 'PT',
      domain: 'ruipao.example',
    });
  });
});

it('without any source, likely addresses come from the colleagues’ pattern', async () => {
  const { companyId, personId } = await here.somebody({ domain: 'patterned.example', fullName: 'Dana Reed' });
  for (const [fullName, email] of [
    ['Aoife Nolan', 'aoife.nolan@patterned.example'],
    ['Bram Bos', 'bram.bos@patterned.example'],
  ])
    await here.pell.call('POST /api/people', { body: { fullName, email, companyId } });
  const { likelyEmails, person: completeness } = await here.gaps({ personId });
  expect(likelyEmails[0]).toMatchObject({ email: 'dana.reed@patterned.example', known: 2, follow: 2 });
  expect(completeness?.missing[0]).toMatchObject({ field: 'email', points: 25 });
});

it('a run is stopped for good before it asked anybody, and what was set aside for it is given back', async () => {
  const { personId } = await here.somebody();
  const { spent } = (await here.pell.call('GET /api/look-ups/rules')).body;
  const { body: run } = await here.pell.call('POST /api/look-ups', { body: { people: [personId] } });
  const stopped = await here.pell.call('POST /api/look-ups/runs/:id/stop', { params: { id: run.id } });
  expect([stopped.status, stopped.body.state]).toEqual([200, 'stopped']);
  await here.house.work();
  const { body } = await here.pell.call('GET /api/look-ups/runs/:id', { params: { id: run.id } });
  expect([body.state, body.spent, await here.asked(`person_id = '${personId}'`)]).toEqual(['stopped', 0, 0]);
  expect((await here.pell.call('GET /api/look-ups/rules')).body.spent).toBe(spent);
});

it('a source that a manager turned off is asked nothing, until it is on again', async () => {
  const turn = (who: typeof here.mara, active: boolean) =>
    who.call('PATCH /api/look-ups/sources/:key', { params: { key: 'register' }, body: { active } });
  expect((await turn(here.pell, false)).status).toBe(403);
  expect((await turn(here.mara, false)).status).toBe(200);
  const register = async () =>
    (await here.pell.call('GET /api/look-ups/sources')).body.items.find(({ key }) => key === 'register');
  expect((await register())?.active).toBe(false);
  const { companyId } = await here.somebody();
  await here.lookUp(here.pell, { companies: [companyId] });
  expect(await here.asked(`company_id = '${companyId}' AND source = 'register'`)).toBe(0);
  await turn(here.mara, true);
  await here.lookUp(here.pell, { companies: [companyId] });
  expect(await here.asked(`company_id = '${companyId}' AND source = 'register'`)).toBe(1);
});

it('only managers set the rules; a selection of nobody and of too many is refused', async () => {
  const rules = await LookUpRules.findOne();
  expect(
    (await here.pell.call('PATCH /api/look-ups/rules', { body: { version: rules?.version, allowance: 1 } }))
      .status,
  ).toBe(403);
  expect(
    (await here.mara.call('PATCH /api/look-ups/rules', { body: { version: 1, allowance: 1 } })).status,
  ).toBe(409);
  expect((await here.pell.call('POST /api/look-ups', { body: {} })).status).toBe(422);
  const people = Array.from({ length: 1001 }, () => crypto.randomUUID());
  expect((await here.pell.call('POST /api/look-ups/plan', { body: { people } })).status).toBe(422);
  expect(
    (await here.pell.call('POST /api/look-ups', { body: { people: [crypto.randomUUID()] } })).status,
  ).toBe(422);
});
