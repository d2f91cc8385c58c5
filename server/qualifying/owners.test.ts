import { useHouse } from '../testing/harness';

const { pell, mara } = useHouse();
let ids: Record<string, string>;
beforeAll(async () => {
  const users = (await pell.call('GET /api/users')).body.items;
  ids = Object.fromEntries(users.map((user) => [user.name.split(' ')[0]?.toLowerCase() ?? '', user.id]));
});

let serial = 0;
async function personIn(country: string | null): Promise<string> {
  const name = 'abcdefghijklmnopqrstuvwxyz'.charAt((serial += 1)).repeat(5);
  const { company } = (await pell.call('POST /api/companies', { body: { name: `Firm ${name}` } })).body;
  if (country)
    await pell.call('PATCH /api/companies/:id', {
      params: { id: company.id },
      body: { version: 1, country },
    });
  return (await pell.call('POST /api/people', { body: { fullName: `Ada ${name}`, companyId: company.id } }))
    .body.person.id;
}
const newLead = async (country: string | null) =>
  (await pell.call('POST /api/leads', { body: { title: 'Bikes', personId: await personIn(country) } })).body
    .lead;
const set = async (rules: object[], client = mara) => {
  const { items } = (await mara.call('GET /api/owner-rules')).body;
  return client.call('PUT /api/owner-rules', {
    body: { rules, seen: items.map(({ id, version }) => ({ id, version })) },
  });
};
const SWEDES = { field: 'country', condition: 'is', value: 'SE' };

it('without a rule a lead is of whoever makes it', async () => {
  expect((await newLead('SE')).owner.id).toBe(ids.pell);
});

it('by rule: country first, the rest in turn, also when two come at once; and by hand all the same', async () => {
  expect(
    (
      await set([
        { when: SWEDES, owners: [ids.mara] },
        { when: null, owners: [ids.ines, ids.pell] },
      ])
    ).status,
  ).toBe(200);
  expect((await newLead('SE')).owner.id).toBe(ids.mara);
  const people = await Promise.all([personIn('GB'), personIn(null), personIn('PT'), personIn('IE')]);
  const made = await Promise.all(
    people.map(
      async (personId) =>
        (await pell.call('POST /api/leads', { body: { title: 'Bikes', personId } })).body.lead,
    ),
  );
  const count = (id: string | undefined): number => made.filter((one) => one.owner.id === id).length;
  expect([count(ids.ines), count(ids.pell)]).toEqual([2, 2]);
  const figures = (await pell.call('GET /api/figures/owners')).body;
  expect(figures.owners.reduce((sum, one) => sum + one.byRule, 0)).toBe(5);
  const leads = figures.owners.map((owner) => owner.leads);
  const sum = leads.reduce((total, one) => total + one, 0);
  expect(figures.fairness).toBeCloseTo(
    (sum * sum) / (leads.length * leads.reduce((total, one) => total + one * one, 0)),
  );
  const later = (await pell.call('GET /api/figures/owners', { query: { since: '2999-01-01' } })).body.owners;
  expect(later.map((one) => one.leads)).toEqual([0, 0]);
  const { id, version } = made[0] ?? { id: '', version: 0 };
  await pell.call('PATCH /api/leads/:id', { params: { id }, body: { version, ownerId: ids.mara } });
  expect((await pell.call('GET /api/leads/:id', { params: { id } })).body.owner.id).toBe(ids.mara);
});

it('is set by managers, never over somebody else’s change, never for nobody; and taken back as one', async () => {
  expect((await set([], pell)).status).toBe(403);
  expect((await mara.call('PUT /api/owner-rules', { body: { rules: [], seen: [] } })).status).toBe(409);
  expect((await set([{ when: null, owners: [crypto.randomUUID()] }])).status).toBe(422);
  expect((await set([{ when: null, owners: [] }])).status).toBe(422);
  const before = (await mara.call('GET /api/owner-rules')).body.items.map((item) => item.value);
  const { body } = await set([{ when: null, owners: [ids.pell] }]);
  await mara.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect((await mara.call('GET /api/owner-rules')).body.items.map((item) => item.value)).toEqual(before);
});
