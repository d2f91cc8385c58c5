import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
let me = '';
let companyId = '';
const month = (ahead: number): string => {
  const now = new Date();
  return new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + ahead, 15)).toISOString().slice(0, 7);
};
const NOBODY = '01890000-0000-7000-8000-000000000000';
beforeAll(async () => {
  me = (await pell.call('GET /api/session')).body.id;
  const made = await pell.call('POST /api/companies', { body: { name: 'Padaria Sol' } });
  companyId = made.body.company.id;
  await house.sequelize.query(
    `UPDATE companies SET industry = 'Bakery', country = 'PT', employees = 40, technologies = '{ovens}' WHERE id = :companyId`,
    { replacements: { companyId } },
  );
  await house.sequelize.query(`UPDATE users SET team = 'Isles' WHERE id = :me`, { replacements: { me } });
  await pell.call('POST /api/deals', {
    body: { title: 'Ovens', companyId, amountMinor: 80_000, expectedClose: `${month(1)}-20` },
  });
});

it.each([
  ['industry', 'Bakery', 'Ferries'],
  ['country', 'PT', 'NO'],
  ['technology', 'ovens', 'ferries'],
  ['atLeast', '40', '41'],
  ['atMost', '40', '39'],
])('companies narrow by %s', async (key, fits, fitsNot) => {
  const names = async (value: string) =>
    (await pell.call('GET /api/companies', { query: { [key]: value } })).body.items.map((item) => item.name);
  expect(await names(fits)).toEqual(['Padaria Sol']);
  expect(await names(fitsNot)).toEqual([]);
});

it('what companies can be narrowed by is counted', async () => {
  await pell.call('POST /api/companies', { body: { name: 'Nothing Known' } });
  expect((await pell.call('GET /api/companies/kinds')).body).toEqual({
    industries: [{ name: 'Bakery', companies: 1 }],
    countries: [{ name: 'PT', companies: 1 }],
    technologies: [{ name: 'ovens', companies: 1 }],
  });
});

it('deals narrow by pipeline, owner, team and company', async () => {
  const [deal] = (await pell.call('GET /api/deals')).body.items;
  const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
  const count = async (query: Record<string, string>) =>
    (await pell.call('GET /api/deals', { query })).body.items.length;
  expect(deal?.title).toBe('Ovens');
  for (const [key, fits] of [
    ['pipeline', pipeline?.id ?? ''],
    ['owner', me],
    ['company', companyId],
  ] as const)
    expect([key, await count({ [key]: fits }), await count({ [key]: NOBODY })]).toEqual([key, 1, 0]);
  expect(await count({ team: 'no such team' })).toBe(0);
  const board = await pell.call('GET /api/pipelines/:id/board', {
    params: { id: pipeline?.id ?? '' },
    query: { company: NOBODY },
  });
  expect([board.status, JSON.stringify(board.body).includes('Ovens')]).toEqual([200, false]);
});

it('the forecast narrows by pipeline, owner and team, and takes its first month, runs and seed', async () => {
  const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
  const best = async (query: Record<string, string>) => {
    const { status, body } = await pell.call('GET /api/forecast', { query: { months: '3', ...query } });
    expect(status).toBe(200);
    return body.months.map((month) => month.bestMinor);
  };
  const ours = [0, 80_000, 0];
  expect([
    await best({}),
    await best({ pipeline: pipeline?.id ?? '' }),
    await best({ owner: me }),
    await best({ team: 'Isles' }),
  ]).toEqual([ours, ours, ours, ours]);
  expect([
    await best({ owner: NOBODY }),
    await best({ team: 'no such team' }),
    await best({ pipeline: NOBODY }),
  ]).toEqual(Array(3).fill([0, 0, 0]));
  expect(await best({ from: `${month(1)}-01` })).toEqual([80_000, 0, 0]);
  const { simulated } = (await pell.call('GET /api/forecast', { query: { runs: '100', seed: '9' } })).body;
  expect(simulated).toMatchObject({ runs: 100, seed: 9 });
});

it('the back-test narrows by the same, and takes its runs and seed', async () => {
  const { deal: past } = (
    await pell.call('POST /api/deals', {
      body: { title: 'Past', amountMinor: 30_000, expectedClose: `${month(-1)}-20` },
    })
  ).body;
  await house.sequelize.query(`UPDATE deal_states SET at = '${month(-2)}-10' WHERE deal_id = :id`, {
    replacements: { id: past.id },
  });
  const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
  const best = async (query: Record<string, string>) =>
    (await pell.call('GET /api/forecast/back-test', { query: { months: '1', ...query } })).body.items.map(
      (item) => item.bestMinor,
    );
  const fitting: Record<string, string>[] = [
    { pipeline: pipeline?.id ?? '' },
    { owner: me },
    { team: 'Isles' },
    { runs: '100', seed: '7' },
  ];
  for (const query of fitting) expect([query, await best(query)]).toEqual([query, [30_000]]);
  const others: Record<string, string>[] = [
    { owner: NOBODY },
    { team: 'no such team' },
    { pipeline: NOBODY },
  ];
  for (const query of others) expect([query, await best(query)]).toEqual([query, [0]]);
});

it('leads, tasks and arrivals narrow to whose they are and how they stand', async () => {
  const { status, body } = await pell.call('GET /api/leads', { query: { owner: NOBODY, status: 'new' } });
  expect([status, body.items]).toEqual([200, []]);
  expect((await pell.call('GET /api/tasks', { query: { assignee: 'all' } })).status).toBe(200);
  expect((await pell.call('GET /api/captures', { query: { state: 'filed' } })).body.items).toEqual([]);
});

describe('what comes after deals', () => {
  const made = { person: '', lead: '', deal: '', project: '', case: '', stage: '' };
  const about = (): Record<string, string> => ({
    personId: made.person,
    companyId,
    leadId: made.lead,
    dealId: made.deal,
    projectId: made.project,
    caseId: made.case,
  });
  beforeAll(async () => {
    const { body: one } = await pell.call('POST /api/people', {
      body: { fullName: 'Nora Narrow', companyId },
    });
    made.person = one.person.id;
    const personId = made.person;
    made.lead = (await pell.call('POST /api/leads', { body: { title: 'Racks', personId } })).body.lead.id;
    made.deal = (
      await pell.call('POST /api/deals', { body: { title: 'Racks', companyId, personId, amountMinor: 1 } })
    ).body.deal.id;
    const project = { title: 'Racks', companyId, people: [personId] };
    made.project = (await pell.call('POST /api/projects', { body: project })).body.id;
    made.stage = (await pell.call('GET /api/projects/:id', { params: { id: made.project } })).body.stage.id;
    const trouble = { title: 'A bent rack', personId, companyId, urgency: 'low' };
    made.case = (await pell.call('POST /api/cases', { body: trouble })).body.id;
  });

  it('projects narrow by stage, owner, company and person', async () => {
    const count = async (query: Record<string, string>) =>
      (await pell.call('GET /api/projects', { query })).body.items.length;
    for (const [key, fits] of [
      ['stage', made.stage],
      ['owner', me],
      ['companyId', companyId],
      ['personId', made.person],
    ] as const)
      expect([key, await count({ [key]: fits }), await count({ [key]: NOBODY })]).toEqual([key, 1, 0]);
  });

  it('cases narrow by urgency, owner, company and person, either way round', async () => {
    const count = async (query: Record<string, string>) =>
      (await pell.call('GET /api/cases', { query: { direction: 'desc', ...query } })).body.items.length;
    for (const [key, fits, fitsNot] of [
      ['urgency', 'low', 'urgent'],
      ['owner', me, NOBODY],
      ['companyId', companyId, NOBODY],
      ['personId', made.person, NOBODY],
    ] as const)
      expect([key, await count({ [key]: fits }), await count({ [key]: fitsNot })]).toEqual([key, 1, 0]);
  });

  it('a file is put on each kind of record, found there, and told in its ledger', async () => {
    const month = new Date().toISOString().slice(0, 7);
    for (const [key, id] of Object.entries(about())) {
      const added = await pell.call('POST /api/files', {
        raw: Buffer.from(`a file on ${key}`),
        type: 'application/octet-stream',
        query: { name: `${key}.txt`, [key]: id },
      });
      expect([key, added.status]).toEqual([key, 201]);
      const { items } = (await pell.call('GET /api/files', { query: { [key]: id } })).body;
      expect(items.map(({ name }) => name)).toContain(`${key}.txt`);
      const months = (await pell.call('GET /api/ledger/months', { query: { [key]: id, kind: 'file' } })).body
        .items;
      expect([key, months[0]?.month]).toEqual([key, month]);
      expect(
        (await pell.call('GET /api/files', { query: { [key]: NOBODY } })).body.items.map(({ name }) => name),
      ).toEqual([]);
    }
  });
});
