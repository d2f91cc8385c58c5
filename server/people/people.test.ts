import { mail, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const add = async (body: object) => (await pell.call('POST /api/people', { body })).body.person;
const dossier = async (id: string) => (await pell.call('GET /api/people/:id', { params: { id } })).body;
const addContact = (id: string, body: object) =>
  pell.call('POST /api/people/:id/contacts', { params: { id }, body });
const change = (id: string, body: object) => pell.call('PATCH /api/people/:id', { params: { id }, body });
const undo = (id: string | null) => pell.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });

describe('a person added by hand', () => {
  it('has a number in E.164, a company found or made, and claims that say who wrote them', async () => {
    const { id } = await add({
      fullName: 'Maud Ellery',
      email: 'Maud@Ellery-Florists.example',
      phone: '+44 7700 900 611',
      companyName: 'Ellery Florists',
    });
    const { contacts, company, companyClaim } = await dossier(id);
    expect(contacts.map(({ kind, normalized, type }) => [kind, normalized, type])).toEqual(
      expect.arrayContaining([
        ['email', 'maud@ellery-florists.example', null],
        ['phone', '+447700900611', 'mobile'],
      ]),
    );
    expect(company?.name).toBe('Ellery Florists');
    expect(companyClaim).toMatchObject({ byHand: true, actor: 'Pell Garrick', fate: 'current' });
  });

  it('needs a name, in words that say which field is wrong', async () => {
    const { status, body } = await pell.call('POST /api/people', { body: { fullName: '  ' } });
    expect(status).toBe(422);
    expect(Object.keys(body.fields as object)).toEqual(['fullName']);
  });
});

describe('addresses, numbers and links', () => {
  it('are added, changed and removed, each with an undo', async () => {
    const { id } = await add({ fullName: 'Jasper Coyle' });
    await addContact(id, { kind: 'phone', value: '07700 900612', type: 'work' });
    const [phone] = (await dossier(id)).contacts;
    expect(phone).toMatchObject({ normalized: '+447700900612', type: 'work' });
    const edit = { version: phone?.version ?? 0, value: '07700 900613', type: 'mobile' };
    await pell.call('PATCH /api/contacts/:id', { params: { id: phone?.id ?? '' }, body: edit });
    expect((await dossier(id)).contacts[0]).toMatchObject({ normalized: '+447700900613', type: 'mobile' });
    const removed = await pell.call('DELETE /api/contacts/:id', { params: { id: phone?.id ?? '' } });
    expect((await dossier(id)).contacts).toEqual([]);
    expect((await undo(removed.body.eventId)).status).toBe(200);
    expect((await dossier(id)).contacts).toHaveLength(1);
  });

  it.each([
    ['email', 'not an address'],
    ['phone', 'call me'],
  ])('refuse a %s that is none', async (kind, value) => {
    const { id } = await add({ fullName: 'Nell Ashby' });
    expect((await addContact(id, { kind, value })).status).toBe(422);
  });

  it('one address is one identity: a second person with it is refused', async () => {
    await add({ fullName: 'Ada Quince', email: 'ada@quince.example' });
    const { id } = await add({ fullName: 'Adam Quince' });
    expect((await addContact(id, { kind: 'email', value: 'ADA@quince.example' })).status).toBe(409);
  });
});

describe('facts', () => {
  it('keep who said what before, and the newest by hand is current', async () => {
    const raw = mail({
      from: 'Tilda Rook <tilda@rookbakery.example>',
      sign: 'Tilda Rook\nBuyer\nRook Bakery',
    });
    const { body: captured } = await pell.call('POST /api/captures', { raw });
    const { body: filed } = await pell.call('POST /api/captures/:id/filing', { params: { id: captured.id } });
    const before = await dossier(filed.person.id);
    expect(before.jobTitle).toMatchObject({ value: 'Buyer', claim: { byHand: false } });
    await change(filed.person.id, { version: before.version, jobTitle: 'Head of Buying' });
    const after = await dossier(filed.person.id);
    expect(after.jobTitle).toMatchObject({ value: 'Head of Buying', claim: { byHand: true } });
    const [rows] = await house.sequelize.query(
      `SELECT value, fate, by_hand, capture_id IS NOT NULL AS read FROM claims WHERE person_id = '${filed.person.id}' AND field = 'jobTitle' ORDER BY created_at`,
    );
    expect(rows).toEqual([
      { value: 'Buyer', fate: 'superseded', by_hand: false, read: true },
      { value: 'Head of Buying', fate: 'current', by_hand: true, read: false },
    ]);
  });

  it('tell their history, newest first, with what was undone', async () => {
    const { id } = await add({ fullName: 'Gil Varley' });
    const { version } = await dossier(id);
    const { body } = await change(id, { version, standing: 'partner' });
    await undo(body.eventId);
    const { items } = (await pell.call('GET /api/history', { query: { table: 'people', id } })).body;
    expect(items.find((item) => item.id === body.eventId)).toMatchObject({
      undone: true,
      actor: { name: 'Pell Garrick' },
    });
    expect((await dossier(id)).standing).toBe('stranger');
  });
});

describe('finding', () => {
  it('makes a person once, however the address is written', async () => {
    const first = await pell.call('POST /api/people/find-or-create', {
      body: { email: 'lone@wolfcycles.example', fullName: 'Lone Wolf' },
    });
    const again = await pell.call('POST /api/people/find-or-create', {
      body: { email: 'LONE@WolfCycles.example' },
    });
    expect(first.body).toMatchObject({ created: true, person: { fullName: 'Lone Wolf' } });
    expect(again.body).toMatchObject({ created: false, person: { id: first.body.person?.id } });
  });

  it.each(['ellery', 'MAUD', 'maud@ellery', 'florists', 'éllery'])('by %s', async (q) => {
    const { items } = (await pell.call('GET /api/search', { query: { q } })).body;
    expect(items.map((hit) => hit.label).join()).toMatch(/Ellery/);
  });
});
