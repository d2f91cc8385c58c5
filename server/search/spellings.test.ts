import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const found = async (q: string): Promise<string[]> =>
  (await pell.call('GET /api/search', { query: { q } })).body.items.map((hit) => hit.label);
const listed = async (q: string): Promise<string[]> =>
  (await pell.call('GET /api/people', { query: { q } })).body.items.map((person) => person.fullName);
const add = async (fullName: string, companyName?: string) =>
  (await pell.call('POST /api/people', { body: { fullName, ...(companyName ? { companyName } : {}) } })).body
    .person;

describe('somebody is found', () => {
  it('in another script, from the beginning of the name, in any order', async () => {
    await add('Зоя Орлова', 'Ромашка');
    await add('橋本 陽子');
    await add('橋本花子');
    await add('はせがわ ようこ');
    await add('김민수');
    expect(await found('orlova')).toContain('Зоя Орлова');
    expect(await found('orl')).toContain('Зоя Орлова');
    expect((await found('zoya orlova'))[0]).toBe('Зоя Орлова');
    expect((await found('orlova zoya'))[0]).toBe('Зоя Орлова');
    expect((await found('orlova romashka'))[0]).toBe('Зоя Орлова');
    expect((await found('romashka')).sort()).toEqual(['Зоя Орлова', 'Ромашка']);
    expect(await found('hashimoto yoko')).toEqual(['橋本 陽子']);
    expect(await found('yoko hashimoto')).toEqual(['橋本 陽子']);
    expect(await found('hanako hashimoto')).toEqual(['橋本花子']);
    expect(await found('hasegawa yoko')).toEqual(['はせがわ ようこ']);
    expect(await found('はせがわ')).toEqual(['はせがわ ようこ']);
    expect(await found('kim minsu')).toEqual(['김민수']);
    expect(await found('김민수')).toEqual(['김민수']);
  });

  it('in Latin letters, when another script was typed', async () => {
    await add('Yoko Ishikawa');
    await add('Lyudmila Sokolova');
    expect(await found('石川')).toEqual(['Yoko Ishikawa']);
    expect(await found('石川陽子')).toEqual(['Yoko Ishikawa']);
    expect((await found('Соколова'))[0]).toBe('Lyudmila Sokolova');
  });

  it('however the marks of a name are written', async () => {
    for (const name of ['Anke Müller', 'Anke Muller', 'Anke Mueller', 'Anke Miller']) await add(name);
    for (const typed of ['mueller', 'müller', 'muller'])
      expect((await found(`anke ${typed}`)).slice(0, 3).sort()).toEqual([
        'Anke Mueller',
        'Anke Muller',
        'Anke Müller',
      ]);
    // As it was typed comes first.
    expect((await found('mueller'))[0]).toBe('Anke Mueller');
  });

  it('by a short form, below those who are called so', async () => {
    await add('Robert Tamsin');
    await add('Bob Tamsin');
    expect((await found('bob tamsin')).slice(0, 2)).toEqual(['Bob Tamsin', 'Robert Tamsin']);
    expect((await found('robert tamsin')).slice(0, 2)).toEqual(['Robert Tamsin', 'Bob Tamsin']);
  });

  it('in the list of people too, but not by a short form', async () => {
    expect(await listed('orlova')).toEqual(['Зоя Орлова']);
    expect((await listed('mueller anke')).sort()).toEqual(['Anke Mueller', 'Anke Muller', 'Anke Müller']);
    expect(await listed('bob tamsin')).toEqual(['Bob Tamsin']);
  });

  it('whatever somebody is called', async () => {
    const long = '橋本陽子'.repeat(40);
    const { id } = await add(long);
    expect(
      (await pell.call('GET /api/search', { query: { q: long.slice(0, 60) } })).body.items.map(
        (hit) => hit.id,
      ),
    ).toEqual([id]);
    for (const q of ['橋'.repeat(190), "'", '\\', ':*', '& | !', 'е'.repeat(100), '%_'])
      expect((await pell.call('GET /api/search', { query: { q } })).status).toBe(200);
  });

  it('no longer by the name they had', async () => {
    const { id } = await add('Тимур Бородин');
    expect(await found('borodin')).toEqual(['Тимур Бородин']);
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    await pell.call('PATCH /api/people/:id', {
      params: { id },
      body: { version: body.version, fullName: 'Тимур Лебедев' },
    });
    expect(await found('borodin')).toEqual([]);
    expect(await found('lebedev timur')).toEqual(['Тимур Лебедев']);
  });

  it('after words came in past the commands, once the job has run', async () => {
    await house.sequelize.query(
      `INSERT INTO people (id, full_name, name_key, created_at, updated_at) VALUES (gen_random_uuid(), 'Эльза Кравец', 'кравец эльза', now(), now())`,
    );
    expect(await found('kravets')).toEqual([]);
    await house.sequelize.query("SELECT queue_job('spellWords', '{}', null, 1, now())");
    await house.work();
    expect(await found('kravets')).toEqual(['Эльза Кравец']);
    const [left] = await house.sequelize.query('SELECT count(*)::int AS n FROM find_unspelt');
    expect(left).toEqual([{ n: 0 }]);
  });
});

describe('whoever is told of in Latin letters', () => {
  it('is recognised among the records in another script', async () => {
    const { id } = await add('Ольга Беспалова', 'Ромашка');
    const { body } = await pell.call('POST /api/people/find-or-create', {
      body: { fullName: 'Olga Bespalova', companyName: 'Ромашка', phone: '+49 30 23125 190' },
    });
    expect([body.outcome, body.matches.map((match) => match.id)]).toEqual(['maybe', [id]]);
  });
});
