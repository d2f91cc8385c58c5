import { QueryTypes } from 'sequelize';
import { useHouse } from '../testing/harness';

const { house, pell, ines } = useHouse();

const person = async (fullName: string, over: Record<string, string> = {}): Promise<string> =>
  (await pell.call('POST /api/people', { body: { fullName, ...over } })).body.person.id;
const look = async () => {
  await pell.call('POST /api/look-alikes/run', { body: { kind: 'person' } });
  await house.work();
  return (await pell.call('GET /api/look-alikes', { query: { kind: 'person' } })).body.items;
};
const groupOf = async (id: string) =>
  (await look()).find((group) => group.members.some((member) => member.id === id));
const toldOf = async (id: string, who = pell) =>
  (await who.call('GET /api/people/:id', { params: { id } })).body.toldApart;

describe('two records of one name', () => {
  let senior = '';
  let junior = '';
  it('say what speaks against their being one as plainly as what speaks for it', async () => {
    senior = await person('Tomás Vega', { phone: '+34 655 50 10 01', companyName: 'Azulejos Vega' });
    junior = await person('Tomás Vega', { phone: '+34 655 50 20 02', companyName: 'Azulejos Vega' });
    for (const [id, birthday] of [
      [senior, '1958-03-02'],
      [junior, '1986-11-20'],
    ] as const)
      expect(
        (
          await pell.call('PATCH /api/people/:id', {
            params: { id },
            body: {
              version: (await pell.call('GET /api/people/:id', { params: { id } })).body.version,
              birthday,
            },
          })
        ).status,
      ).toBe(200);
    const { body } = await pell.call('POST /api/merges/compare', {
      body: { kind: 'person', ids: [senior, junior] },
    });
    const texts = (isAgainst: boolean) =>
      body.reasons.filter((reason) => reason.isAgainst === isAgainst).map((reason) => reason.text);
    expect(texts(false).sort()).toEqual(['name agrees', 'same company']);
    expect(texts(true)).toEqual(['another birthday', 'each has another mobile']);
    expect(body.reasons.every((reason) => reason.pairs.length === 1 && !/against/.test(reason.weight))).toBe(
      true,
    );
  });

  it('are father and son: shown on both, and not asked again whatever their facts become', async () => {
    const told = await pell.call('POST /api/told-apart', {
      body: { kind: 'person', ids: [senior, junior], as: 'fatherAndSon' },
    });
    expect(told.status).toBe(201);
    for (const [id, other] of [
      [senior, junior],
      [junior, senior],
    ])
      expect(await toldOf(id ?? '', ines)).toEqual([
        {
          id: expect.any(String) as string,
          how: 'fatherAndSon',
          other: { id: other, name: 'Tomás Vega', hint: 'Azulejos Vega' },
          at: expect.any(String) as string,
          actor: { id: expect.any(String) as string, name: 'Pell Garrick' },
        },
      ]);
    // The whole family answers one telephone.
    for (const id of [senior, junior])
      await pell.call('POST /api/people/:id/contacts', {
        params: { id },
        body: { kind: 'phone', value: '+34 915 55 03 03' },
      });
    expect(await groupOf(senior)).toBeUndefined();
  });

  it('may be found alike again once the answer is taken back, and that can be undone', async () => {
    const [answer] = await toldOf(junior);
    const gone = await pell.call('DELETE /api/told-apart/:id', { params: { id: answer?.id ?? '' } });
    expect([await toldOf(senior), await toldOf(junior)]).toEqual([[], []]);
    const undone = await pell.call('POST /api/events/:id/undo', { params: { id: gone.body.eventId ?? '' } });
    // Pages that show one of the two hear of it.
    const [told] = await house.sequelize.query<{ touched: { table: string; ids?: string[] }[] }>(
      'SELECT event_touched(changes) AS touched FROM events WHERE id = :id',
      { replacements: { id: undone.body.eventId ?? gone.body.eventId }, type: QueryTypes.SELECT },
    );
    for (const id of [senior, junior]) expect(JSON.stringify(told?.touched)).toContain(id);
    expect(await toldOf(senior)).toHaveLength(1);
    expect(
      (await pell.call('DELETE /api/told-apart/:id', { params: { id: crypto.randomUUID() } })).status,
    ).toBe(404);
  });

  it('stay what they were called when one of them becomes one with a third', async () => {
    const third = await person('Tomás Vega', { email: 'tomas@vega-azulejos.example' });
    await pell.call('POST /api/merges', {
      body: { kind: 'person', survivorId: third, mergedIds: [senior] },
    });
    expect((await toldOf(junior)).map((answer) => [answer.how, answer.other.id])).toEqual([
      ['fatherAndSon', third],
    ]);
    expect((await toldOf(third)).map((answer) => answer.other.id)).toEqual([junior]);
  });
});

describe('a group of look-alikes', () => {
  it('is answered as namesakes, which each of them shows', async () => {
    const all = [
      await person('Rosalind Ferncastle', { phone: '+44 20 7946 0311' }),
      await person('Rosalind Ferncastle', { phone: '+44 20 7946 0311', companyName: 'Ferncastle Florists' }),
    ];
    const group = await groupOf(all[0] ?? '');
    expect(group?.members.map((member) => member.id).sort()).toEqual([...all].sort());
    await pell.call('POST /api/look-alikes/:id/different', {
      params: { id: group?.id ?? '' },
      body: { as: 'namesakes' },
    });
    expect((await toldOf(all[0] ?? '')).map(({ how, other }) => [how, other.id])).toEqual([
      ['namesakes', all[1]],
    ]);
    expect(await groupOf(all[0] ?? '')).toBeUndefined();
  });

  it('says of three records which of them a reason is about', async () => {
    const ids = [
      await person('Odile Marchetti', { phone: '+33 6 39 98 00 01' }),
      await person('Odile Marchetti', { phone: '+33 6 39 98 00 01' }),
      await person('Odette Marchetti', { phone: '+33 6 39 98 00 02' }),
    ];
    const { body } = await pell.call('POST /api/merges/compare', { body: { kind: 'person', ids } });
    const pairsOf = (text: string) => body.reasons.find((reason) => reason.text === text)?.pairs;
    expect(pairsOf('same number')).toEqual([[ids[0], ids[1]]]);
    expect(pairsOf('same family name, another given name')).toEqual([
      [ids[0], ids[2]],
      [ids[1], ids[2]],
    ]);
    expect(body.probability).toBeLessThan(0.1);
  });

  it('takes no answer that does not fit', async () => {
    const firms = await Promise.all(
      ['Larkspur Linen', 'Larkspur Linens'].map(
        async (name) => (await pell.call('POST /api/companies', { body: { name } })).body.company.id,
      ),
    );
    const tell = (kind: 'person' | 'company', ids: string[], as: 'fatherAndSon' | 'namesakes') =>
      pell.call('POST /api/told-apart', { body: { kind, ids, as } });
    expect((await tell('company', firms, 'fatherAndSon')).status).toBe(422);
    expect((await tell('company', firms, 'namesakes')).status).toBe(201);
    expect((await tell('person', firms, 'namesakes')).status).toBe(404);
    expect((await tell('company', [firms[0] ?? '', firms[0] ?? ''], 'namesakes')).status).toBe(422);
    const { body } = await pell.call('GET /api/companies/:id', { params: { id: firms[0] ?? '' } });
    expect(body.toldApart.map(({ how, other }) => [how, other.name])).toEqual([
      ['namesakes', 'Larkspur Linens'],
    ]);
  });
});
