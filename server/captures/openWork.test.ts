import { mail, useHouse } from '../testing/harness';

const { pell } = useHouse();

const capture = async (subject: string) =>
  (await pell.call('POST /api/captures', { raw: mail({ subject }) })).body;
const file = async (id: string, body?: object) =>
  (
    await pell.call('POST /api/captures/:id/filing', {
      params: { id },
      ...(body ? { body } : {}),
    })
  ).body;
const person = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;

it('a message goes to the open lead, then to the deal made of it, and to a new lead only when asked', async () => {
  const first = await file((await capture('One')).id);
  const second = await file((await capture('Two')).id);
  expect(second).toMatchObject({ lead: { id: first.lead?.id }, deal: null });
  const { deal } = (
    await pell.call('POST /api/leads/:id/conversion', { params: { id: first.lead?.id ?? '' } })
  ).body;

  const third = await capture('Three');
  expect(third.openWork).toEqual([
    { personId: first.person.id, kind: 'deal', id: deal.id, title: deal.name },
  ]);
  const filed = await file(third.id);
  expect(filed).toMatchObject({ lead: null, deal: { id: deal.id } });
  const ledger = await pell.call('GET /api/ledger', { query: { dealId: deal.id } });
  expect(ledger.body.items.map((entry) => entry.headline)).toContain('Three');
  const shown = await pell.call('GET /api/captures/:id', { params: { id: third.id } });
  expect(shown.body.filedAs).toMatchObject({ deal: { id: deal.id }, lead: null });

  const asked = await file((await capture('Four')).id, { lead: 'new' });
  expect(asked.deal).toBeNull();
  expect(asked.lead?.id).not.toBe(first.lead?.id);
});

it('a stranger becomes a prospect with the first lead, and is one no more when it is undone', async () => {
  const { body } = await pell.call('POST /api/people', {
    body: { fullName: 'Orla Strand', email: 'orla@strandweavers.example' },
  });
  const raw = mail({ from: 'Orla Strand <orla@strandweavers.example>', sign: 'Orla Strand' });
  const captured = (await pell.call('POST /api/captures', { raw })).body;
  const filed = await file(captured.id);
  expect(filed.person.id).toBe(body.person.id);
  expect((await person(filed.person.id)).standing).toBe('prospect');
  await pell.call('POST /api/events/:id/undo', { params: { id: filed.eventId ?? '' } });
  expect((await person(filed.person.id)).standing).toBe('stranger');
});

it('the ledger keeps what was said, without quoting and signature', async () => {
  const filed = await file((await capture('Five')).id);
  const { body } = await pell.call('GET /api/ledger', { query: { personId: filed.person.id } });
  const entry = body.items.find((item) => item.headline === 'Five');
  expect(entry?.body).toContain('eight long bikes');
  expect(entry?.body).not.toContain('Padaria Sol');
});

it('a write that names a record that is not there says which', async () => {
  const nobody = '00000000-0000-4000-8000-0000000000ff';
  const { status, body } = await pell.call('POST /api/deals', { body: { title: 'X', companyId: nobody } });
  expect(status).toBe(422);
  expect(body.fields).toEqual({ companyId: 'does not exist' });
});
