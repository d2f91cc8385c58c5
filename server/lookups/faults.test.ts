import { LookUpSourceRow } from '../db/models/lookUps';
import { openLookUpHouse, type LookUpHouse } from '../testing/lookUps';

let here: LookUpHouse;
beforeAll(async () => (here = await openLookUpHouse()));
afterAll(() => here.close());

describe('sources at fault', () => {
  afterEach(async () => {
    for (const source of ['register', 'finder', 'directory']) await here.faults(source, 'well');
    await LookUpSourceRow.update({ failures: 0, openUntil: null }, { where: {} });
  });

  it('down: the others are asked all the same, nothing is charged, and it is left alone after failing too often', async () => {
    await here.faults('register', 'down');
    const people = [await here.somebody(), await here.somebody()];
    const run = await here.lookUp(here.pell, { people: people.map((person) => person.personId) });
    expect(run.state).toBe('done');
    expect(run.trouble).toMatch(/Company register/);
    expect(await here.asked("source = 'register' AND state = 'failed' AND price > 0")).toBe(0);
    const source = (await here.pell.call('GET /api/look-ups/sources')).body.items.find(
      (item) => item.key === 'register',
    );
    expect(source?.restsUntil).not.toBeNull();
    const plan = (
      await here.pell.call('POST /api/look-ups/plan', { body: { people: [people[0]?.personId] } })
    ).body;
    expect(plan.steps.map((step) => step.source)).not.toContain('register');
  });
  it('slow: it is given up after its time, and nothing is charged', async () => {
    await here.faults('register', 'slow');
    const { companyId } = await here.somebody();
    expect((await here.lookUp(here.pell, { companies: [companyId] })).trouble).toMatch(/does not answer/);
    expect(await here.asked(`company_id = '${companyId}' AND source = 'register' AND price > 0`)).toBe(0);
  }, 40_000);
  it('over its quota: it is left alone for a while', async () => {
    await here.faults('directory', 'spent');
    const { personId } = await here.somebody();
    expect((await here.lookUp(here.pell, { people: [personId] })).trouble).toMatch(/quota is used up/);
    expect(await here.asked("source = 'directory' AND state = 'failed' AND tries <> 1")).toBe(0);
    expect((await LookUpSourceRow.findOne({ where: { key: 'directory' } }))?.openUntil).not.toBeNull();
  });
  it('talking nonsense or of another firm: nothing of it is believed', async () => {
    await here.faults('register', 'nonsense');
    await here.faults('directory', 'lying');
    const { companyId } = await here.somebody();
    await here.lookUp(here.pell, { companies: [companyId] });
    expect(await here.company(companyId)).toMatchObject({ industry: null, employees: null, phone: null });
  });
});
