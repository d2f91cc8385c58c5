import { saying } from '../testing/saying';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { person } = saying(pell);

const tagged = async (name: string, tags: string[], by: Client = pell) =>
  (await by.call('POST /api/people', { body: { fullName: name, tags } })).body.person.id;
const tagsOf = async (id: string, table = 'people') => {
  const [rows] = await house.sequelize.query(`SELECT tags FROM ${table} WHERE id = '${id}'`);
  return (rows[0] as { tags: string[] } | undefined)?.tags;
};
const change = async (tag: string, to: string | null, by: Client = mara) => {
  const answer = await by.call('POST /api/tags/changes', { body: { tag, to } });
  await house.work();
  return answer;
};
const undo = (id: string | null) => mara.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const counts = async (by: Client = mara) =>
  Object.fromEntries(
    (await by.call('GET /api/tags')).body.items.map(({ tag, people, deals }) => [tag, [people, deals]]),
  );
const asking = (value: string[], field = 'tags', kind = 'person') => ({
  kind,
  filter: { all: [{ field, op: field === 'tags' ? 'hasAny' : 'is', value }] },
});
const hide = (id: string) =>
  pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id },
    body: { visibility: 'owner' },
  });

describe('a tag', () => {
  it('is renamed on every record, hidden or not, in forms, rhythms and views; each is counted and undone', async () => {
    const [ana, rui, hidden] = [
      await tagged('Ana Fair', ['fair', 'spring']),
      await tagged('Rui Fair', ['fair']),
      await tagged('Eva Fair', ['fair']),
    ];
    await hide(hidden);
    const deal = (
      await pell.call('POST /api/deals', { body: { title: 'Fair bikes', personId: ana, tags: ['fair'] } })
    ).body.deal.id;
    const form = await mara.call('POST /api/forms', {
      body: {
        name: 'Stand',
        slug: 'stand',
        kind: 'public',
        tags: ['fair'],
        fields: [{ name: 'email', label: 'Email', field: 'email', kind: 'line', required: true }],
      },
    });
    expect(form.status).toBe(201);
    await mara.call('PUT /api/rhythms', { body: { kind: 'tag', value: 'fair', days: 30 } });
    await pell.call('POST /api/views', { body: { name: 'At the fair', query: asking(['fair']) } });
    await ines.call('POST /api/views', { body: { name: 'Hers', query: asking(['fair']) } });
    await mara.call('PUT /api/tags/meaning', { body: { tag: 'fair', meaning: 'waiting' } });

    // A colleague counts what she sees, and is told of no view but hers.
    expect((await counts(ines)).fair).toEqual([2, 1]);
    await pell.call('POST /api/deals', {
      body: { title: 'Alone with it', personId: ana, tags: ['of a deal'] },
    });
    expect((await counts(ines))['of a deal']).toEqual([0, 1]);
    const uses = await ines.call('GET /api/tags/uses', { query: { tag: 'fair', to: 'spring' } });
    expect(uses.body).toEqual({
      isThere: true,
      uses: ['the form “Stand”', 'a rhythm', 'the view “Hers”'],
    });
    expect((await change('fair', 'trade fair', ines)).status).toBe(403);

    const { status, body } = await change('fair', 'trade fair');
    expect([status, body.changes.map(({ kind, total }) => [kind, total])]).toEqual([
      201,
      [
        ['person', 3],
        ['deal', 1],
      ],
    ]);
    expect(await Promise.all([ana, rui, hidden].map((id) => tagsOf(id)))).toEqual([
      ['trade fair', 'spring'],
      ['trade fair'],
      ['trade fair'],
    ]);
    expect(await tagsOf(deal, 'deals')).toEqual(['trade fair']);
    const views = async (by: Client) =>
      JSON.stringify((await by.call('GET /api/views', { query: { kind: 'person' } })).body);
    expect(await views(pell)).toContain('["trade fair"]');
    expect(await views(ines)).toContain('["trade fair"]');
    expect((await mara.call('GET /api/rhythms')).body.items).toMatchObject([
      { value: 'trade fair', days: 30 },
    ]);
    expect(
      (await mara.call('GET /api/tags')).body.items.find(({ tag }) => tag === 'trade fair')?.meaning,
    ).toBe('waiting');
    expect((await counts()).fair).toBeUndefined();
    const lines = (await pell.call('GET /api/ledger', { query: { personId: rui } })).body.items.map(
      ({ headline }) => headline,
    );
    expect(lines).toContain('Tag “fair” → “trade fair”');

    for (const { id } of body.changes) await mara.call('POST /api/bulk-changes/:id/undo', { params: { id } });
    await undo(body.eventId);
    await house.work();
    expect(await Promise.all([ana, rui, hidden].map((id) => tagsOf(id)))).toEqual([
      ['fair', 'spring'],
      ['fair'],
      ['fair'],
    ]);
    expect(await views(ines)).toContain('["fair"]');
    expect((await mara.call('GET /api/rhythms')).body.items).toMatchObject([{ value: 'fair' }]);
  });

  it('becomes one with another, so that nobody has both; capitals alone can be changed', async () => {
    const [both, one] = [
      await tagged('Both Tags', ['bakers', 'bakery']),
      await tagged('One Tag', ['bakers']),
    ];
    expect((await change('bakers', 'bakery')).status).toBe(201);
    expect([await tagsOf(both), await tagsOf(one)]).toEqual([['bakery'], ['bakery']]);
    expect((await change('bakery', 'Bakery')).status).toBe(201);
    expect([await tagsOf(both), await tagsOf(one)]).toEqual([['Bakery'], ['Bakery']]);
    expect((await change('Bakery', 'Bakery')).status).toBe(422);
  });

  it('is taken away from all; views that ask for it go on and find nobody; of what there is none of nothing is said', async () => {
    const id = await tagged('Last Year', ['2025', 'kept']);
    const { view } = (
      await mara.call('POST /api/views', { body: { name: 'Last year', query: asking(['2025']) } })
    ).body;
    const { body } = await change('2025', null);
    expect(await tagsOf(id)).toEqual(['kept']);
    expect(body.also).toEqual(['the view “Last year”']);
    const answer = await mara.call('POST /api/queries', { body: { query: view.query } });
    expect([answer.status, answer.body.items]).toEqual([200, []]);
    expect((await change('never used', 'x')).status).toBe(409);
    expect((await change('kept', 'two\nlines')).status).toBe(422);
  });

  it('has a meaning, changed and taken back by undo', async () => {
    await tagged('Meant', ['vip']);
    const meaningOf = async () =>
      (await pell.call('GET /api/tags')).body.items.find(({ tag }) => tag === 'vip')?.meaning;
    const set = (meaning: string | null, by: Client = mara) =>
      by.call('PUT /api/tags/meaning', { body: { tag: 'vip', meaning } });
    expect((await set('ours', pell)).status).toBe(403);
    await set('ours');
    const { body } = await set('warning');
    expect(await meaningOf()).toBe('warning');
    await undo(body.eventId);
    expect(await meaningOf()).toBe('ours');
    await set(null);
    expect(await meaningOf()).toBeNull();
    expect((await set('pink')).status).toBe(422);
  });
});

it('a source of leads is renamed on all of them, converted ones too, and becomes one with another', async () => {
  const personId = await person('Sourced');
  for (const [title, source] of [
    ['One', 'fair 2025'],
    ['Two', 'fair 2025'],
    ['Three', 'Fair'],
  ])
    await pell.call('POST /api/leads', { body: { title, source, personId } });
  await pell.call('POST /api/views', {
    body: { name: 'From the fair', query: asking(['fair 2025'], 'source', 'lead') },
  });
  const list = async () =>
    (await pell.call('GET /api/sources')).body.items.filter(({ source }) => /fair/i.test(source));
  expect(await list()).toEqual([
    { source: 'fair 2025', leads: 2 },
    { source: 'Fair', leads: 1 },
  ]);
  const uses = await pell.call('GET /api/sources/uses', { query: { source: 'fair 2025', to: 'Fair' } });
  expect(uses.body).toEqual({ isThere: true, uses: ['the view “From the fair”'] });
  const body = { source: 'fair 2025', to: 'Fair' };
  expect((await pell.call('POST /api/sources/changes', { body })).status).toBe(403);
  expect((await mara.call('POST /api/sources/changes', { body })).body.changes).toMatchObject([
    { kind: 'lead', total: 2 },
  ]);
  await house.work();
  expect(await list()).toEqual([{ source: 'Fair', leads: 3 }]);
});

it('a list is renamed, its people are moved to another with the forms that add to it, and an empty one is removed', async () => {
  const add = async (name: string) => (await mara.call('POST /api/lists', { body: { name } })).body.list.id;
  const [news, old] = [await add('News'), await add('Old news')];
  const rename = (name: string, by: Client = mara) =>
    by.call('PATCH /api/lists/:id', { params: { id: old }, body: { name } });
  expect((await rename('News')).status).toBe(409);
  expect((await rename('Older news', pell)).status).toBe(403);
  expect((await rename('Older news')).body.list).toEqual({ id: old, name: 'Older news' });
  const ids = [await person('On Both'), await person('On Old')];
  for (const [at, personId] of ids.entries())
    for (const list of at === 0 ? [news, old] : [old])
      await house.sequelize.query(
        `INSERT INTO list_members (id, list_id, person_id, created_at) VALUES (gen_random_uuid(), '${list}', '${personId}', now())`,
      );
  const remove = () => mara.call('DELETE /api/lists/:id', { params: { id: old } });
  expect((await remove()).status).toBe(409);
  const moved = await mara.call('POST /api/lists/:id/moves', { params: { id: old }, body: { toId: news } });
  await house.work();
  expect([moved.status, moved.body.changes]).toMatchObject([201, [{ kind: 'person', total: 2 }]]);
  const people = async () =>
    Object.fromEntries(
      (await mara.call('GET /api/lists')).body.items.map(({ name, people }) => [name, people]),
    );
  expect(await people()).toMatchObject({ News: 2, 'Older news': 0 });
  const gone = await remove();
  expect([gone.status, 'Older news' in (await people())]).toEqual([200, false]);
  await undo(gone.body.eventId);
  expect('Older news' in (await people())).toBe(true);
});
