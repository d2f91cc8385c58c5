import { mail, useHouse } from '../testing/harness';

const { pell } = useHouse();

/** Files a message that says of its sender what their title is. */
async function told(id: string, title: string): Promise<void> {
  const raw = mail({
    from: 'Ines Duarte <ines@padariasol.example>',
    sign: `Ines Duarte\n${title}\nPadaria Sol\nM +351 910 555 014`,
  });
  const { body } = await pell.call('POST /api/captures', { raw });
  const filed = await pell.call('POST /api/captures/:id/filing', {
    params: { id: body.id },
    body: { person: id },
  });
  expect(filed.status).toBe(201);
}
const dossier = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;

it('what a hand wrote stays, also after a reading agreed with it once', async () => {
  const { body } = await pell.call('POST /api/people', {
    body: { fullName: 'Ines Duarte', email: 'ines@padariasol.example' },
  });
  const { id } = body.person;
  const { version } = await dossier(id);
  await pell.call('PATCH /api/people/:id', {
    params: { id },
    body: { version, jobTitle: 'Purchasing Manager' },
  });
  await told(id, 'Purchasing Manager');
  await told(id, 'Managing Director');
  const now = await dossier(id);
  expect(now.jobTitle.value).toBe('Purchasing Manager');
  expect(now.jobTitle.suggestion?.value).toBe('Managing Director');
});

it('a reading that came first is still replaced by a newer one', async () => {
  const { body } = await pell.call('POST /api/captures', {
    raw: mail({ from: 'Read First <first@read.example>', sign: 'Read First\nBuyer\nRead Ltd' }),
  });
  const { body: filed } = await pell.call('POST /api/captures/:id/filing', {
    params: { id: body.id },
    body: { person: 'new' },
  });
  const raw = mail({
    from: 'Read First <first@read.example>',
    sign: 'Read First\nHead of Purchasing\nRead Ltd',
  });
  const later = await pell.call('POST /api/captures', { raw });
  await pell.call('POST /api/captures/:id/filing', {
    params: { id: later.body.id },
    body: { person: filed.person.id },
  });
  expect((await dossier(filed.person.id)).jobTitle.value).toBe('Head of Purchasing');
});
