import { useHouse } from '../testing/harness';

const { house, pell, ines } = useHouse();

const found = async (q: string, who = pell): Promise<string[]> =>
  (await who.call('GET /api/search', { query: { q } })).body.items.map((hit) => hit.label);
const addPerson = async (fullName: string, address: string | null): Promise<string> => {
  const { body } = await pell.call('POST /api/people', { body: { fullName } });
  if (address !== null)
    await pell.call('PATCH /api/people/:id', {
      params: { id: body.person.id },
      body: { version: 1, address },
    });
  return body.person.id;
};

describe('a town', () => {
  it('finds who lives or works there, without its accents and from its beginning', async () => {
    await addPerson('Ute Kern', 'Hauptstraße 4, 50667 Köln');
    await addPerson('Wim Dekker', 'Spui 12, Den Haag');
    const { body } = await pell.call('POST /api/companies', { body: { name: 'Spritzgebäck' } });
    await pell.call('PATCH /api/companies/:id', {
      params: { id: body.company.id },
      body: { version: 1, address: 'Domplatz 1, Köln' },
    });
    expect((await found('koln')).sort()).toEqual(['Spritzgebäck', 'Ute Kern']);
    expect(await found('köl')).toContain('Ute Kern');
    expect(await found('den haag')).toEqual(['Wim Dekker']);
    expect(await found('den hof')).toEqual([]);
    // A number of a house is no town.
    expect(await found('50667')).toEqual([]);
  });

  it('one kind of record is asked for, and the others do not take its place', async () => {
    for (let n = 0; n < 4; n++) await addPerson(`Osmund Vale ${n}`, null);
    await pell.call('POST /api/companies', { body: { name: 'Osmund Boats' } });
    const { body } = await pell.call('GET /api/search', {
      query: { q: 'osmund', kind: 'company', limit: '2' },
    });
    expect(body.items.map((hit) => hit.label)).toEqual(['Osmund Boats']);
  });

  it('comes after those who have the name', async () => {
    await addPerson('Paris Holm', null);
    await addPerson('Jo Marchetti', '3 rue Haute, Paris');
    expect(await found('paris')).toEqual(['Paris Holm', 'Jo Marchetti']);
  });

  it('is forgotten when somebody moves, and with them', async () => {
    const id = await addPerson('Ola Berg', 'Storgata 1, Tromsø');
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: body.version, address: 'Kirkegata 2, Bodø' },
    });
    expect(await found('tromso')).toEqual([]);
    expect(await found('bodo')).toEqual(['Ola Berg']);
    await house.sequelize.query('DELETE FROM claims WHERE person_id = :id', { replacements: { id } });
    await house.sequelize.query('DELETE FROM people WHERE id = :id', { replacements: { id } });
    const [left] = await house.sequelize.query('SELECT count(*)::int AS n FROM find_places WHERE id = :id', {
      replacements: { id },
    });
    expect(left).toEqual([{ n: 0 }]);
  });

  it('finds nobody whom one cannot see', async () => {
    const id = await addPerson('Hush Lindqvist', 'Strandvägen 9, Visby');
    expect(await found('visby', ines)).toEqual(['Hush Lindqvist']);
    const hidden = await pell.call('PUT /api/visibility/:kind/:id', {
      params: { kind: 'people', id },
      body: { visibility: 'owner' },
    });
    expect(hidden.status).toBe(200);
    expect(await found('visby', ines)).toEqual([]);
    expect(await found('visby')).toEqual(['Hush Lindqvist']);
  });
});

it('the number of a quote finds its deal, in any case', async () => {
  const { body } = await pell.call('POST /api/deals', { body: { title: 'Six bikes' } });
  await pell.call('PUT /api/deals/:id/lines', {
    params: { id: body.deal.id },
    body: {
      version: 1,
      lines: [{ name: 'Long bike', quantity: '1', unitMinor: 100_000 }],
    },
  });
  const { body: made } = await pell.call('POST /api/deals/:id/quotes', { params: { id: body.deal.id } });
  expect(await found(made.quote.number.toLowerCase())).toEqual(['Six bikes']);
  expect(await found(`${made.quote.number}9`)).toEqual([]);
});
