import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const add = async (fullName: string, companyName: string) =>
  (await pell.call('POST /api/people', { body: { fullName, companyName } })).body.person.id;

/** What the preview says of each row. */
async function judged(rows: readonly string[]) {
  const { body: bench } = await pell.call('POST /api/imports', {
    raw: `Name;Company\n${rows.join('\n')}\n`,
    type: 'text/csv',
    query: { name: 'people.csv' },
  });
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: bench.mapping ?? { columns: [], hasHead: true }, choices: {} },
  });
  await house.work();
  return (await pell.call('GET /api/imports/:id', { params: { id: bench.id } })).body;
}

describe('an import', () => {
  it('asks about people whose names are written otherwise in the book, and about nobody else', async () => {
    await add('Зоя Орлова', 'Ромашка');
    await add('橋本陽子', 'Sumida Cycles');
    await add('Anke Müller', 'Brotwerk');
    await add('Yoon Min-su', 'Hangang Coffee');
    const seen = await judged([
      'Zoya Orlova;Ромашка',
      'Yoko Hashimoto;Sumida Cycles',
      'Anke Mueller;Brotwerk',
      'Anke Moller;Brotwerk',
      'Zoya Sokolova;Ромашка',
      'Hanako Hashimoto;Sumida Cycles',
    ]);
    expect(seen.counts).toMatchObject({ new: 3, maybe: 3, same: 0 });
    expect(seen.problems.map((problem) => problem.text)).toEqual(['may be somebody we know']);
  });
});
