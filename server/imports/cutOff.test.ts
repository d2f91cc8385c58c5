import { QueryTypes } from 'sequelize';
import { breakConnections, CUT, spread, workUntil, type Breaker } from '../testing/faults';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
let breaker: Breaker;
beforeAll(async () => {
  breaker = breakConnections();
  house.expectFailure(CUT);
  await pell.call('POST /api/people', {
    body: { fullName: 'Known Already', email: 'known@already.example' },
  });
});
afterAll(() => breaker.restore());

const ROWS = 24;
/** People nobody knows, one we know, one twice, one who only may be somebody, one without a name, in every round others. */
let numbers = 0;
const csv = (round: string): string =>
  [
    'Name,Company,Email,Mobile,Tags',
    ...Array.from(
      { length: ROWS },
      (_, at) =>
        `Row${round}${at} Person,Firm ${round} ${at % 5},p${at}@firm-${round}-${at % 5}.example,+3319900${String(++numbers).padStart(4, '0')},fair`,
    ),
    `Row${round}0 Person,Firm ${round} 0,p0@firm-${round}-0.example,,again`,
    'Known Already,,known@already.example,,met',
    ',,,,nobody',
  ].join('\n');

async function bench(round: string): Promise<string> {
  const { body } = await pell.call('POST /api/imports', {
    raw: csv(round),
    type: 'text/csv',
    query: { name: `${round}.csv` },
  });
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: body.id },
    body: { version: body.version, mapping: body.mapping, choices: { tags: [`round ${round}`] } },
  });
  return body.id;
}
const get = async (id: string) => (await pell.call('GET /api/imports/:id', { params: { id } })).body;
const start = (id: string) => pell.call('POST /api/imports/:id/start', { params: { id } });

/** All that an import leaves in the records, without what differs from round to round. */
async function left(id: string, round: string) {
  const [row] = await house.sequelize.query<Record<string, number>>(
    `SELECT (SELECT count(*) FROM people WHERE full_name LIKE :names)::int AS people,
            (SELECT count(*) FROM companies WHERE name LIKE :firms)::int AS companies,
            (SELECT count(*) FROM contact_points k JOIN people p ON p.id = k.person_id WHERE p.full_name LIKE :names)::int AS contacts,
            (SELECT count(*) FROM people p WHERE p.full_name LIKE :names AND p.tags @> ARRAY['fair', :tag])::int AS tagged,
            (SELECT count(*) FROM find_records f JOIN people p USING (id) WHERE p.full_name LIKE :names)::int AS found,
            (SELECT count(*) FROM find_words f JOIN people p USING (id) WHERE p.full_name LIKE :names)::int AS words,
            (SELECT count(*) FROM import_rows WHERE import_id = :id AND outcome IS NULL)::int AS open,
            (SELECT done FROM imports WHERE id = :id) AS done,
            (SELECT count(*) FROM events WHERE command = 'import' AND label = :label)::int AS events`,
    {
      replacements: {
        id,
        names: `Row${round}%`,
        firms: `Firm ${round} %`,
        tag: `round ${round}`,
        label: `Imported ${round}.csv`,
      },
      type: QueryTypes.SELECT,
    },
  );
  const { state, counts } = await get(id);
  return { ...row, state, counts };
}

describe('an import whose connections break', () => {
  let whole: Awaited<ReturnType<typeof left>>;
  let previewed: Awaited<ReturnType<typeof get>>['counts'];
  let statements = { preview: 0, run: 0 };
  beforeAll(async () => {
    const id = await bench('Whole');
    breaker.arm(Infinity);
    await house.work();
    const preview = breaker.counted();
    previewed = (await get(id)).counts;
    await start(id);
    breaker.arm(Infinity);
    await house.work();
    statements = { preview, run: breaker.counted() };
    whole = await left(id, 'Whole');
  });

  it('is what it should be where none does', () => {
    expect(previewed).toMatchObject({ new: ROWS, same: 2 });
    expect(whole).toMatchObject({
      people: ROWS,
      companies: 5,
      contacts: 2 * ROWS,
      tagged: ROWS,
      found: ROWS,
      open: 0,
      events: 1,
      state: 'done',
    });
  });

  it('previews the same, whichever statement is cut', async () => {
    for (const at of spread(statements.preview, 7)) {
      const id = await bench(`Pre${at}x`);
      breaker.arm(at);
      await workUntil(house, breaker, async () => (await get(id)).state === 'previewed');
      expect([at, (await get(id)).counts]).toEqual([at, previewed]);
    }
  });

  it('writes every row once, whichever statement is cut', async () => {
    for (const at of spread(statements.run, 14)) {
      const round = `Run${at}x`;
      const id = await bench(round);
      breaker.arm(Infinity);
      await house.work();
      await start(id);
      breaker.arm(at);
      await workUntil(house, breaker, async () => (await get(id)).state === 'done');
      expect([at, await left(id, round)]).toEqual([at, whole]);
    }
  });

  it('is found by the same words as if its people had been entered by hand', async () => {
    const words = () =>
      house.sequelize.query(
        'SELECT f.kind, f.word, f.id, f.name, f.seen_by, r.words::text FROM find_words f JOIN find_records r USING (id) ORDER BY 3, 2',
        { type: QueryTypes.SELECT },
      );
    const imported = await words();
    expect(imported.length).toBeGreaterThan(ROWS);
    await house.sequelize.query('DELETE FROM find_words; DELETE FROM find_records;');
    for (const [kind, table] of [
      ['p', 'people'],
      ['c', 'companies'],
    ])
      await house.sequelize.query(`SELECT find_refresh('${kind}', array_agg(id)) FROM ${table}`);
    expect(await words()).toEqual(imported);
  });
});
