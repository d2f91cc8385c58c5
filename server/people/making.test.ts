import { useHouse } from '../testing/harness';

const { pell, ines } = useHouse();
const idOf = async (client: typeof pell): Promise<string> => (await client.call('GET /api/session')).body.id;
const nobody = '01900000-0000-7000-8000-000000000000';

it('a person is added with an owner, tags and what they agreed to, in one step that is undone in one', async () => {
  const ownerId = await idOf(ines);
  const made = await pell.call('POST /api/people', {
    body: {
      fullName: 'Wanda Quince',
      email: 'wanda@quince.example',
      companyName: 'Quince Florists',
      ownerId,
      tags: ['Utrecht fair', 'utrecht  fair'],
      consent: 'agreed',
    },
  });
  expect(made.status).toBe(201);
  const dossier = (await pell.call('GET /api/people/:id', { params: { id: made.body.person.id } })).body;
  expect(dossier).toMatchObject({
    owner: { id: ownerId },
    tags: ['Utrecht fair'],
    company: { name: 'Quince Florists' },
  });
  expect(dossier.consents).toEqual([{ purpose: 'News', state: 'agreed' }]);
  const undone = await pell.call('POST /api/events/:id/undo', { params: { id: made.body.eventId ?? '' } });
  expect(undone.status).toBe(200);
  expect((await pell.call('GET /api/people/:id', { params: { id: made.body.person.id } })).status).toBe(404);
});

it('a lead is added with somebody new and a company by name, from a source and for an owner', async () => {
  const ownerId = await idOf(ines);
  const made = await pell.call('POST /api/leads', {
    body: {
      title: 'Six long bikes',
      personName: 'Otis Larkrise',
      companyName: 'Larkrise Couriers',
      source: 'Utrecht fair',
      ownerId,
    },
  });
  expect(made.status).toBe(201);
  const lead = (await pell.call('GET /api/leads/:id', { params: { id: made.body.lead.id } })).body;
  expect(lead).toMatchObject({
    source: 'Utrecht fair',
    owner: { id: ownerId },
    person: { name: 'Otis Larkrise' },
    company: { name: 'Larkrise Couriers' },
  });
  const { status } = await pell.call('POST /api/events/:id/undo', {
    params: { id: made.body.eventId ?? '' },
  });
  expect(status).toBe(200);
  expect((await pell.call('GET /api/people', { query: { q: 'larkrise' } })).body.items).toEqual([]);
  expect((await pell.call('POST /api/leads', { body: { title: 'Whose?' } })).status).toBe(422);
});

it('nothing is given to somebody who is not there', async () => {
  const refused = [
    await pell.call('POST /api/people', { body: { fullName: 'Given Away', ownerId: nobody } }),
    await pell.call('POST /api/leads', { body: { title: 'x', personName: 'Given Away', ownerId: nobody } }),
    await pell.call('POST /api/deals', { body: { title: 'Given away', ownerId: nobody } }),
  ];
  expect(refused.map(({ status }) => status)).toEqual([422, 422, 422]);
  expect((await pell.call('GET /api/people', { query: { q: 'given away' } })).body.items).toEqual([]);
  const { body } = await pell.call('POST /api/deals', {
    body: { title: 'For Ines', ownerId: await idOf(ines) },
  });
  expect(body.deal.owner).toMatchObject({ id: await idOf(ines) });
});
