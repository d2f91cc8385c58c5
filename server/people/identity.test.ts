import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const find = async (body: object) =>
  (await pell.call('POST /api/people/find-or-create', { body: body as never })).body;

describe('find or create a person', () => {
  it('by page, by address, by number and name, and makes them with all of their keys else', async () => {
    const made = await find({
      fullName: 'Ines Duarte',
      emails: ['ines@padariasol.example', 'ines.duarte@freemail.example'],
      phone: '+351 910 555 014',
      profiles: ['https://rollcall.example/people/ines/'],
      companyName: 'Padaria Sol',
      jobTitle: 'Buyer',
    });
    expect(made).toMatchObject({
      outcome: 'created',
      person: { fullName: 'Ines Duarte', jobTitle: 'Buyer' },
    });
    const id = made.person?.id ?? '';
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    expect(body.contacts).toHaveLength(4);
    for (const known of [
      { profiles: ['https://rollcall.example/people/ines'] },
      { email: 'Ines.Duarte@freemail.example' },
      { fullName: 'Inês Duarte', phone: '00351 910 555 014' },
      { fullName: 'Duarte, Ines', companyName: 'Padaria Sol, Lda.', phone: '+351910555014' },
    ])
      expect(await find(known)).toMatchObject({ outcome: 'found', person: { id } });
    await pell.call('POST /api/events/:id/undo', { params: { id: made.eventId ?? '' } });
    expect((await pell.call('GET /api/people/:id', { params: { id } })).status).toBe(404);
  });
  it('asks, makes or refuses where it may be somebody we know', async () => {
    const known = await find({ fullName: 'Rosa Quill', email: 'rosa@quill.example' });
    const other = { fullName: 'Rosa Quill', email: 'rosa.quill@freemail.example' };
    const people = await house.count('people');
    const asked = await find(other);
    expect(asked).toMatchObject({ outcome: 'maybe', person: null, matches: [{ id: known.person?.id }] });
    const refused = await pell.call('POST /api/people/find-or-create', {
      body: { ...other, onMaybe: 'reject' },
    });
    expect([refused.status, refused.body.detail]).toEqual([409, expect.stringContaining('Rosa Quill')]);
    expect(await house.count('people')).toBe(people);
    expect(await find({ ...other, onMaybe: 'create' })).toMatchObject({ outcome: 'created' });
  });
  it('does not take a shared mailbox for one person', async () => {
    const ana = await find({ fullName: 'Ana Sol', email: 'info@shared.example' });
    expect(
      await find({ fullName: 'Rui Reis', email: 'info@shared.example', onMaybe: 'create' }),
    ).toMatchObject({
      outcome: 'created',
    });
    expect((await find({ fullName: 'Ana Sol', phone: '+44 20 7946 0123' })).outcome).toBe('maybe');
    expect(ana.outcome).toBe('created');
  });
  it('a hundred at once with one number and name make one', async () => {
    const people = await house.count('people');
    const all = await Promise.all(
      Array.from({ length: 100 }, () =>
        find({ fullName: 'Otto Once', phone: '+44 7700 900456', companyName: 'Once' }),
      ),
    );
    expect(all.filter((one) => one.created)).toHaveLength(1);
    expect(new Set(all.map((one) => one.person?.id)).size).toBe(1);
    expect(await house.count('people')).toBe(people + 1);
  });
  it('refuses what tells nobody', async () => {
    const empty = await pell.call('POST /api/people/find-or-create', { body: { companyName: 'Sol' } });
    expect([empty.status, Object.keys(empty.body.fields as object)]).toEqual([422, ['fullName']]);
    const odd = await pell.call('POST /api/people/find-or-create', { body: { phone: 'ring me' } });
    expect(odd.status).toBe(422);
  });
});

describe('find or create a company', () => {
  const firm = async (body: { name?: string; domain?: string; onMaybe?: 'ask' | 'create' | 'reject' }) =>
    (await pell.call('POST /api/companies/find-or-create', { body })).body;
  it('by domain, by name however it is written, and asks where the domain is another', async () => {
    const made = await firm({ name: 'Coral Crumb Ltd', domain: 'coralcrumb.example' });
    expect(made.outcome).toBe('created');
    const id = made.company?.id;
    expect(await firm({ domain: 'www.coralcrumb.example' })).toMatchObject({
      outcome: 'found',
      company: { id },
    });
    expect((await firm({ name: 'The Coral Crumb' })).outcome).not.toBe('created');
    expect(await firm({ name: 'Coral Crumb', domain: 'other.example' })).toMatchObject({
      outcome: 'maybe',
      company: null,
      matches: [{ id }],
    });
  });
  it('a hundred at once make one', async () => {
    const all = await Promise.all(
      Array.from({ length: 100 }, () => firm({ name: 'Hundredfold Bakery', domain: 'hundredfold.example' })),
    );
    expect(new Set(all.map((one) => one.company?.id)).size).toBe(1);
    expect(all.filter((one) => one.created)).toHaveLength(1);
  });
});
