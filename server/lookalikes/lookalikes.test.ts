import { QueryTypes } from 'sequelize';
import { type Client, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const person = async (fullName: string, over: Record<string, string> = {}): Promise<string> =>
  (await pell.call('POST /api/people', { body: { fullName, ...over } })).body.person.id;
const look = async (kind: 'person' | 'company' = 'person') => {
  await pell.call('POST /api/look-alikes/run', { body: { kind } });
  await house.work();
  return (await pell.call('GET /api/look-alikes', { query: { kind } })).body;
};
const membersOf = (body: Awaited<ReturnType<typeof look>>): string[][] =>
  body.items.map((item) => item.members.map((member) => member.id).sort());

describe('look-alikes', () => {
  let ines = '';
  let again = '';
  let groupId = '';
  it('are found in the background, surest first, and a group found again keeps its id', async () => {
    ines = await person('Ines Duarte', {
      email: 'ines@padariasol.example',
      phone: '+351 910 555 014',
      companyName: 'Padaria Sol',
    });
    again = await person('Inês Duarte', {
      email: 'ines.d@freemail.example',
      phone: '+351 910 555 014',
      companyName: 'Padaria Sol',
    });
    for (const title of ['Eight bikes', 'Trailers', 'A service plan'])
      await pell.call('POST /api/leads', { body: { title, personId: ines } });
    await person('Rui Reis', { email: 'rui@padariasol.example', companyName: 'Padaria Sol' });
    const [one, other] = [
      await person('Aoife Nolan', { phone: '+353 20 910 0001', companyName: 'Liffey Linen' }),
      await person('Aoife Nolan', { phone: '+353 20 913 4471', companyName: 'Liffey Linen' }),
    ];
    const body = await look();
    expect(membersOf(body)).toEqual([[ines, again].sort(), [one, other].sort()]);
    expect(body.items[0]?.probability).toBeGreaterThan(body.items[1]?.probability ?? 1);
    expect(body.run).toMatchObject({ records: 5, groups: 2, trouble: '' });
    const from = (body.items[0]?.probability ?? 1).toString();
    const sure = (await pell.call('GET /api/look-alikes', { query: { kind: 'person', from } })).body;
    expect(membersOf(sure)).toEqual([[ines, again].sort()]);
    groupId = body.items[0]?.id ?? '';
    expect((await look()).items[0]?.id).toBe(groupId);
  });

  it('stand side by side with sources, the value that stays and what moves', async () => {
    const { body } = await pell.call('POST /api/merges/compare', {
      body: { kind: 'person', ids: [ines, again] },
    });
    expect(body.survivorId).toBe(ines);
    const name = body.fields.find((field) => field.field === 'fullName');
    expect(name?.values.map((value) => [value.value, value.byHand])).toEqual([
      ['Ines Duarte', true],
      ['Inês Duarte', true],
    ]);
    expect(name).toMatchObject({ proposed: again, why: 'newer' });
    expect(body.fields.find((field) => field.field === 'email')).toMatchObject({
      choice: false,
      proposed: 'both',
    });
    expect(body.moves).toMatchObject({ contacts: 2, ledger: 0 });
    expect(body.reasons.map((reason) => reason.text)).toContain('same number');
    const old = await pell.call('POST /api/merges/compare', {
      body: { kind: 'person', ids: [ines, crypto.randomUUID()] },
    });
    expect(old.status).toBe(404);
  });

  it('told apart are not asked again, until their facts change', async () => {
    const told = await pell.call('POST /api/look-alikes/:id/different', {
      params: { id: groupId },
      body: {},
    });
    expect(told.status).toBe(200);
    expect(membersOf(await look())).not.toContainEqual([ines, again].sort());
    const twice = await pell.call('POST /api/look-alikes/:id/different', {
      params: { id: groupId },
      body: {},
    });
    expect(twice.status).toBe(409);
    await pell.call('POST /api/people/:id/contacts', {
      params: { id: again },
      body: { kind: 'phone', value: '+351 910 555 099' },
    });
    expect(membersOf(await look())).toContainEqual([ines, again].sort());
  });

  it('told apart by mistake stand open again after the undo', async () => {
    const [group] = (await look()).items.filter((item) => item.members.some((member) => member.id === ines));
    const told = await pell.call('POST /api/look-alikes/:id/different', {
      params: { id: group?.id ?? '' },
      body: {},
    });
    await pell.call('POST /api/events/:id/undo', { params: { id: told.body.eventId ?? '' } });
    expect(membersOf(await look())).toContainEqual([ines, again].sort());
  });

  it('are merged several at once, with a preview, each in a transaction of its own', async () => {
    const { items } = await look();
    const ids = items.map((item) => item.id);
    const { body: preview } = await pell.call('POST /api/look-alikes/preview', { body: { ids } });
    expect(preview.items).toHaveLength(2);
    expect(preview.items[0]?.changed).toContainEqual({
      label: 'Name',
      from: 'Ines Duarte',
      to: 'Inês Duarte',
    });
    const { body } = await pell.call('POST /api/look-alikes/merge', {
      body: { ids: [...ids, crypto.randomUUID()] },
    });
    expect([body.merged.length, body.left.length]).toEqual([2, 1]);
    const after = await look();
    expect([after.total, await house.count('forwardings')]).toEqual([0, 2]);
    const { body: kept } = await pell.call('GET /api/people/:id', { params: { id: again } });
    expect(kept.id).toBe(ines);
    // Undone it was a slip: the group stands open again as it was.
    await pell.call('POST /api/events/:id/undo', { params: { id: body.merged[0]?.eventId ?? '' } });
    const { body: open } = await pell.call('GET /api/look-alikes', {});
    expect(membersOf(open)).toContainEqual([ines, again].sort());
  });

  it('taken apart later are not asked about again', async () => {
    const merged = await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: ines, mergedIds: [again] },
    });
    await pell.call('POST /api/merges/:id/unmerge', {
      params: { id: merged.body.mergeIds[0] ?? '' },
      body: {},
    });
    expect(membersOf(await look())).not.toContainEqual([ines, again].sort());
  });

  it('among companies may be branches, which are noted and not merged', async () => {
    const make = async (name: string): Promise<string> =>
      (await pell.call('POST /api/companies', { body: { name } })).body.company.id;
    const [whole, branch] = [await make('Greenbasket Foods'), await make('Greenbasket Foods Ltd')];
    const { items } = await look('company');
    expect(items[0]?.members.map((member) => member.id).sort()).toEqual([whole, branch].sort());
    const related = await pell.call('POST /api/look-alikes/:id/related', {
      params: { id: items[0]?.id ?? '' },
      body: { parentId: whole },
    });
    expect(related.status).toBe(200);
    const { body } = await pell.call('GET /api/companies/:id', { params: { id: whole } });
    expect(body.branches.map((branch) => branch.id)).toEqual([branch]);
    expect((await look('company')).items).toEqual([]);
    const circle = await pell.call('PATCH /api/companies/:id', {
      params: { id: whole },
      body: { version: body.version, parentId: branch },
    });
    expect(circle.status).toBe(422);
  });

  it('are looked for among firms and not among households', async () => {
    for (let count = 0; count < 2; count++)
      await pell.call('POST /api/companies', { body: { name: 'The Havneby family', kind: 'household' } });
    expect((await look('company')).items).toEqual([]);
  });
});

describe('what is found', () => {
  const find = async (q: string): Promise<string[]> =>
    (await pell.call('GET /api/search', { query: { q } })).body.items.map((hit) => hit.label);
  it('is found by parts in any order, slips, addresses, numbers, tags, firms and domains', async () => {
    const id = await person('Clementine Ashdown', {
      email: 'clem.ashdown@dashline.example',
      phone: '+44 7700 900234',
      companyName: 'Dashline Couriers',
      jobTitle: 'Operations Lead',
    });
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: body.version, tags: ['Fair 2026'] },
    });
    for (const q of [
      'clementine ashdown',
      'ash clem',
      'mentine',
      'Clemetine Asdown',
      'lcementine',
      'clem.ashdown@dash',
      'clem.ash',
      'dashline.example',
      '07700 900 234',
      '+44 (0)7700 900234',
      '0044 7700 9002',
      '900234',
      'fair 2026',
      'dashline clem',
      'ashdown couriers',
      'DASHLINE',
    ])
      expect({ q, found: await find(q) }).toEqual({
        q,
        found: expect.arrayContaining(['Clementine Ashdown']),
      });
    expect(await find('dashline couriers')).toContain('Dashline Couriers');
    expect(await find('nobody of this name')).toEqual([]);
  });
  it('is kept in step with what is changed and taken away', async () => {
    const made = await pell.call('POST /api/people', {
      body: { fullName: 'Hamish Rennie', email: 'hamish@oldfirm.example' },
    });
    const id = made.body.person.id;
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: body.version, fullName: 'Hamish Strachan' },
    });
    expect([await find('rennie'), await find('strachan')]).toEqual([[], ['Hamish Strachan']]);
    const contact = body.contacts[0];
    await pell.call('PATCH /api/contacts/:id', {
      params: { id: contact?.id ?? '' },
      body: { version: contact?.version ?? 1, value: 'hamish@newfirm.example' },
    });
    expect([await find('oldfirm.example'), await find('newfirm.example')]).toEqual([[], ['Hamish Strachan']]);
    await pell.call('DELETE /api/contacts/:id', { params: { id: contact?.id ?? '' } });
    expect(await find('newfirm.example')).toEqual([]);
    const words = await house.sequelize.query<{ n: number }>(
      'SELECT count(*)::int AS n FROM find_words w WHERE NOT EXISTS (SELECT 1 FROM find_records r WHERE r.id = w.id)',
      { type: QueryTypes.SELECT },
    );
    expect(words[0]?.n).toBe(0);
  });
  it('puts those a rep works with first, and inactive people last and marked', async () => {
    const [first, second, third] = [
      await person('Marit Vos Aal', {}),
      await person('Marit Vos Bakker', {}),
      await person('Marit Vos Cats', {}),
    ];
    const ines = await house.as('ines@wharfside.example');
    const work = async (id: string): Promise<void> => {
      await ines.call('POST /api/tasks', {
        body: { title: 'Call', kind: 'call', dueAt: '2026-12-01T09:00:00Z', personId: id },
      });
    };
    await work(second);
    await work(third);
    await work(third);
    const order = async (client: Client) =>
      (await client.call('GET /api/search', { query: { q: 'marit vos' } })).body.items.map((hit) => hit.id);
    expect(await order(ines)).toEqual([third, second, first]);
    const { body } = await pell.call('GET /api/people/:id', { params: { id: third } });
    await pell.call('PATCH /api/people/:id', {
      params: { id: third },
      body: { version: body.version, active: false },
    });
    expect(await order(ines)).toEqual([second, first, third]);
    const { body: hits } = await ines.call('GET /api/search', { query: { q: 'marit vos' } });
    expect(hits.items.map((hit) => hit.inactive)).toEqual([false, false, true]);
    const { body: listed } = await pell.call('GET /api/people', { query: { q: 'marit' } });
    expect(listed.items.map((item) => item.id)).not.toContain(third);
    const { body: inactive } = await pell.call('GET /api/people', {
      query: { q: 'marit', inactive: 'only' },
    });
    expect(inactive.items.map((item) => item.id)).toEqual([third]);
  });
});
