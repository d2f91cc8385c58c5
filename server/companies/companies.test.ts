import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const file = async (from: string, firm: string, subject = 'Bikes') => {
  const raw = mail({ from, subject, sign: `${from.split(' <')[0] ?? ''}\nBuyer\n${firm}` });
  const { body } = await pell.call('POST /api/captures', { raw });
  return (
    await pell.call('POST /api/captures/:id/filing', { params: { id: body.id }, body: { person: 'new' } })
  ).body;
};
const dossier = async (id: string) => (await pell.call('GET /api/companies/:id', { params: { id } })).body;

it('shows everything said with all of its people', async () => {
  const first = await file('Ona Pike <ona@pikejoinery.example>', 'Pike Joinery', 'From Ona');
  const second = await file('Abel Storr <abel@pikejoinery.example>', 'Pike Joinery Ltd', 'From Abel');
  expect(second.company?.id).toBe(first.company?.id);
  const id = first.company?.id ?? '';
  expect((await dossier(id)).people.map((person) => person.name).sort()).toEqual(['Abel Storr', 'Ona Pike']);
  const { items } = (await pell.call('GET /api/ledger', { query: { companyId: id } })).body;
  expect(items.map((entry) => entry.headline).sort()).toEqual(['From Abel', 'From Ona']);
});

it('is one for one domain and one for one name, whoever adds it', async () => {
  const made = await pell.call('POST /api/companies', {
    body: { name: 'Thorn & Vale Ltd', domain: 'thornvale.example' },
  });
  const filed = await file('Ros Vale <ros@thornvale.example>', 'Thorn and Vale');
  expect(filed.company?.id).toBe(made.body.company.id);
  const before = await house.count('companies');
  await file('Cy Thorn <cy@mail.example>', 'Thorn & Vale');
  expect(await house.count('companies')).toBe(before);
});

it('is changed by hand, a stale change gets what stands there', async () => {
  const { body } = await pell.call('POST /api/companies', { body: { name: 'Larch Works' } });
  const { id } = body.company;
  const { version } = await dossier(id);
  const put = (patch: object) =>
    pell.call('PATCH /api/companies/:id', { params: { id }, body: { version, ...patch } });
  expect((await put({ phone: '020 7946 0123', url: 'https://larch.example' })).status).toBe(200);
  const stale = await put({ name: 'Larch Works Ltd' });
  expect(stale.status).toBe(409);
  expect(stale.body.current).toMatchObject({ name: 'Larch Works', url: 'https://larch.example' });
});

it.each(['no dots', 'https://x.example', 'x'])('refuses %s for a domain', async (domain) =>
  expect((await pell.call('POST /api/companies', { body: { name: 'Odd', domain } })).status).toBe(422),
);
