import { openHouse, type Client, type House } from '../testing/harness';

let house: House;
let pell: Client;
let me = '';
let companyId = '';
const NOBODY = '01890000-0000-7000-8000-000000000000';
beforeAll(async () => {
  house = await openHouse();
  pell = await house.as('pell@wharfside.example');
  me = (await pell.call('GET /api/session')).body.id;
  const made = await pell.call('POST /api/companies', { body: { name: 'Padaria Sol' } });
  companyId = made.body.company.id;
  await house.sequelize.query(
    `UPDATE companies SET industry = 'Bakery', country = 'PT', employees = 40 WHERE id = :companyId`,
    { replacements: { companyId } },
  );
  await pell.call('POST /api/deals', { body: { title: 'Ovens', companyId } });
});
afterAll(() => house.close());

it.each([
  ['industry', 'Bakery', 'Ferries'],
  ['country', 'PT', 'NO'],
  ['atLeast', '40', '41'],
  ['atMost', '40', '39'],
])('companies narrow by %s', async (key, fits, fitsNot) => {
  const names = async (value: string) =>
    (await pell.call('GET /api/companies', { query: { [key]: value } })).body.items.map((one) => one.name);
  expect(await names(fits)).toEqual(['Padaria Sol']);
  expect(await names(fitsNot)).toEqual([]);
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

it('the forecast narrows by pipeline, owner and team, and takes its runs and first month', async () => {
  const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
  for (const query of [
    { pipeline: pipeline?.id ?? '' },
    { owner: NOBODY },
    { team: 'no such team' },
    { runs: '100', from: '2026-11-01' },
  ] as Record<string, string>[])
    expect([query, (await pell.call('GET /api/forecast', { query })).status]).toEqual([query, 200]);
  const path = 'GET /api/forecast/back-test' as const;
  for (const query of [
    { pipeline: pipeline?.id ?? '' },
    { owner: NOBODY },
    { team: 'no such team' },
    { runs: '100', seed: '7' },
  ] as Record<string, string>[])
    expect([query, (await pell.call(path, { query })).status]).toEqual([query, 200]);
});

it('leads, tasks and arrivals narrow to whose they are and how they stand', async () => {
  const { status, body } = await pell.call('GET /api/leads', { query: { owner: NOBODY, status: 'new' } });
  expect([status, body.items]).toEqual([200, []]);
  expect((await pell.call('GET /api/tasks', { query: { assignee: 'all' } })).status).toBe(200);
  expect((await pell.call('GET /api/captures', { query: { state: 'filed' } })).body.items).toEqual([]);
});
