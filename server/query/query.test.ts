import { isGroupable, OPERATORS } from '@emporikon/core/query/operators';
import type { Query } from '@emporikon/core/query/types';
import { runInTransaction } from '../commands/context';
import { useHouse } from '../testing/harness';
import { totalsOf, pageOfIds, valuesOf } from './answer';
import { loadSchema } from './schema';

const use = useHouse();
const person = async (fullName: string, more: object = {}) =>
  (await use.pell.call('POST /api/people', { body: { fullName, ...more } })).body.person;
const ask = async (query: object, by = use.pell) =>
  (await by.call('POST /api/queries', { body: { query: { kind: 'person', ...query } } })).body;
const names = async (filter: object, by = use.pell) =>
  (await ask({ filter }, by)).items.map((item) => item.values.fullName);

const VALUES = {
  text: 'x',
  choice: ['x'],
  several: ['x'],
  user: ['me'],
  number: 3,
  money: 3,
  day: { away: -3, unit: 'day' },
  time: { unit: 'week', shift: 0 },
  yearly: { unit: 'month', shift: 0 },
  flag: true,
  place: [-9.2, 38.6, 10],
  calculated: 'x',
} as const;
const AREA = [-10, 36, -6, 36, -6, 42];

it('every field of every kind can be compared in every way, grouped, sorted, added up and shown', async () => {
  await runInTransaction(use.house.tools, null, async (context) => {
    const schema = await loadSchema(context);
    for (const spec of Object.values(schema.registry)) {
      const queries: Query[] = [...spec.fields.values()].flatMap((field): Query[] => [
        ...OPERATORS[field.type].map((op): Query => {
          const value =
            op === 'between'
              ? [VALUES[field.type], VALUES[field.type]]
              : op === 'inside'
                ? AREA
                : VALUES[field.type];
          const comparison =
            op === 'empty' || op === 'filled' ? { field: field.key, op } : { field: field.key, op, value };
          return { kind: spec.kind, filter: { not: comparison as never } };
        }),
        ...(!isGroupable(field.type)
          ? []
          : [
              {
                kind: spec.kind,
                groups: [{ field: field.key }],
                order: [{ field: field.key, direction: 'desc' as const }],
              },
            ]),
      ]);
      for (const { key } of spec.relations.values())
        queries.push({ kind: spec.kind, filter: { relation: key, has: 'all' } });
      for (const query of queries) {
        await pageOfIds(context, schema, query, { limit: 1 });
        await totalsOf(context, schema, query);
      }
      await valuesOf(context, schema, { kind: spec.kind, columns: [...spec.fields.keys()] }, [
        crypto.randomUUID(),
      ]);
    }
  });
});

describe('a query over the API', () => {
  it('tells what can be asked, with the fields and values of this organisation', async () => {
    await use.mara.call('POST /api/fields', { body: { label: 'Bread a day', kind: 'number' } });
    await person('Known Title', { jobTitle: 'Crust Tester' });
    const { body } = await use.pell.call('GET /api/queries/fields', { query: { kind: 'person' } });
    const field = (label: string) => body.fields.find((one) => one.label === label);
    expect(body).toMatchObject({ one: 'person', many: 'people', name: 'fullName' });
    expect(field('Bread a day')).toMatchObject({ key: 'custom.bread_a_day', type: 'number' });
    expect(field('Owner')?.options?.map(({ label }) => label)).toContain('Pell Garrick');
    expect(field('Job title')?.suggestions).toContainEqual({ value: 'Crust Tester', label: 'Crust Tester' });
    expect(field('Days quiet')).toMatchObject({ isReckoned: true, unit: 'days' });
    expect(body.relations.map(({ key }) => key)).toEqual(expect.arrayContaining(['company', 'deals']));
  });

  it('answers rows with what was asked for, page by page', async () => {
    for (const name of ['Aoife Nolan', 'Bea Amado', 'Cleo Brandt'])
      await person(name, { tags: ['paged'], companyName: `Firm of ${name}` });
    const query = {
      kind: 'person',
      filter: { field: 'tags', op: 'hasAny', value: ['paged'] },
      order: [{ field: 'fullName', direction: 'desc' }],
      columns: ['companyName', 'owner'],
    };
    const first = (await use.pell.call('POST /api/queries', { body: { query, limit: 2 } })).body;
    expect(first.items.map((item) => item.values)).toEqual([
      { fullName: 'Cleo Brandt', companyName: 'Firm of Cleo Brandt', owner: expect.any(String) },
      { fullName: 'Bea Amado', companyName: 'Firm of Bea Amado', owner: expect.any(String) },
    ]);
    expect(first.items[0]?.links.companyName).toEqual(expect.any(String));
    const rest = (await use.pell.call('POST /api/queries', { body: { query, limit: 2, cursor: first.next } }))
      .body;
    expect(rest.items.map((item) => item.values.fullName)).toEqual(['Aoife Nolan']);
    expect(rest.next).toBeNull();
    const other = await use.pell.call('POST /api/queries', {
      body: { query: { ...query, order: [] }, cursor: first.next },
    });
    expect(other.status).toBe(422);
  });

  it('begins where typed letters stand in the order, in either direction, and goes on from there', async () => {
    for (const name of ['Mia Letter', 'Nils Letter', 'Nora Letter', 'Óscar Letter'])
      await person(name, { tags: ['letters'] });
    const query = (direction: 'asc' | 'desc', more: object = {}) => ({
      kind: 'person',
      filter: { field: 'tags', op: 'hasAny', value: ['letters'] },
      order: [{ field: 'fullName', direction }],
      ...more,
    });
    const from = async (letters: string, direction: 'asc' | 'desc' = 'asc', limit = 60) =>
      (await use.pell.call('POST /api/queries', { body: { query: query(direction), from: letters, limit } }))
        .body;
    const named = ({ items }: { items: { values: object }[] }) =>
      items.map(({ values }) => (values as { fullName: string }).fullName.split(' ')[0]);
    expect(named(await from('n'))).toEqual(['Nils', 'Nora', 'Óscar']);
    expect(named(await from('no'))).toEqual(['Nora', 'Óscar']);
    expect(named(await from('n', 'desc'))).toEqual(['Nora', 'Nils', 'Mia']);
    const first = await from('n', 'asc', 1);
    const rest = await use.pell.call('POST /api/queries', {
      body: { query: query('asc'), cursor: first.next },
    });
    expect([named(first), named(rest.body)]).toEqual([['Nils'], ['Nora', 'Óscar']]);
    for (const more of [
      { groups: [{ field: 'owner' }] },
      { order: [{ field: 'createdAt', direction: 'asc' }] },
    ]) {
      const refused = await use.pell.call('POST /api/queries', {
        body: { query: query('asc', more), from: 'n' },
      });
      expect(refused.status).toBe(422);
    }
  });

  it.each([
    [{ field: 'nothing', op: 'is', value: 'x' }, 'people have no field “nothing”'],
    [{ field: 'fullName', op: 'over', value: 3 }, '“Name” cannot be compared with “is over”'],
    [{ field: 'standing', op: 'is', value: ['king'] }, 'has no value “king”'],
    [{ field: 'createdAt', op: 'in', value: { day: '2026-02-30' } }, 'takes a date or a period'],
    [{ relation: 'nothing', has: 'any' }, 'people are not related to “nothing”'],
  ])('says what is wrong with %j', async (filter, words) => {
    const { status, body } = await use.pell.call('POST /api/queries', {
      body: { query: { kind: 'person', filter } },
    });
    expect(status).toBe(422);
    expect(body.detail).toContain(words);
  });

  it.each([
    [
      'deep',
      Array.from({ length: 3000 }).reduce<object>((inner) => ({ not: inner }), {
        field: 'fullName',
        op: 'filled',
      }),
    ],
    ['wide', { any: Array.from({ length: 61 }, () => ({ field: 'fullName', op: 'filled' })) }],
    [
      'a doubling',
      Array.from({ length: 7 }).reduce<object>((inner) => ({ any: [inner, inner] }), {
        field: 'fullName',
        op: 'filled',
      }),
    ],
    ['no condition', { drop: 'table' }],
    ['a value in SQL', { field: "fullName'; DROP TABLE people; --", op: 'filled' }],
  ])('refuses a hostile condition: %s', async (_, filter) => {
    const { status } = await use.pell.call('POST /api/queries', {
      body: { query: { kind: 'person', filter } },
    });
    expect([400, 422]).toContain(status);
  });

  it('takes any text as a value', async () => {
    await person("Robert'); DROP", { tags: ['odd'] });
    await person('100 %_\\ sure', { tags: ['odd'] });
    const odd = { field: 'tags', op: 'hasAny', value: ['odd'] };
    const holding = (value: string) => names({ all: [odd, { field: 'fullName', op: 'contains', value }] });
    expect(await holding("t'); DR")).toEqual(["Robert'); Drop"]);
    expect(await holding('%_\\')).toEqual(['100 %_\\ Sure']);
    expect(await holding('0_%')).toEqual([]);
  });

  it('counts and adds up by group', async () => {
    await person('Group One', { tags: ['grouped', 'a'], jobTitle: 'Baker' });
    await person('Group Two', { tags: ['grouped'], jobTitle: 'Baker' });
    await person('Group Three', { tags: ['grouped'] });
    const { items } = (
      await use.pell.call('POST /api/queries/totals', {
        body: {
          query: {
            kind: 'person',
            filter: { field: 'tags', op: 'hasAny', value: ['grouped'] },
            groups: [{ field: 'jobTitle' }],
            totals: [{ how: 'sum', field: 'openDeals' }],
          },
        },
      })
    ).body;
    expect(items).toEqual([
      { keys: [], count: 3, totals: [0] },
      { keys: ['Baker'], count: 2, totals: [0] },
      { keys: [null], count: 1, totals: [0] },
    ]);
  });

  it('hands over what it shows as a table and as lines of JSON', async () => {
    await person('=HYPERLINK("x")', { tags: ['exported'], companyName: 'Comma, "Quoted" Ltd' });
    await person('Åsa Export', { tags: ['exported', 'second'] });
    const query = {
      kind: 'person',
      filter: { field: 'tags', op: 'hasAny', value: ['exported'] },
      order: [{ field: 'createdAt', direction: 'asc' }],
      columns: ['fullName', 'companyName', 'tags', 'owner', 'openDealsMinor'],
    };
    const file = async (ending: string, asked: object | string = query) =>
      use.pell.raw(
        'GET',
        `/api/queries.${ending}?query=${encodeURIComponent(typeof asked === 'string' ? asked : JSON.stringify(asked))}`,
      );
    // Source: RFC 4180, 2.5 to 2.7 for quotes and commas; a formula is made plain text (OWASP, CSV injection).
    const { text } = await file('csv');
    const [head = '', first = '', second = ''] = text.replace(/^\ufeff/, '').split('\r\n');
    expect(head).toBe('Name,Company,Tags,Owner,Open deals value (EUR)');
    expect(first).toContain('"Comma, ""Quoted"" Ltd"');
    expect(first).not.toMatch(/^"?=/);
    expect(second).toMatch(/^Åsa Export,,"?exported; second"?,[^,]*,$/);
    const lines = (await file('jsonl')).text.trim().split('\n');
    expect(lines.map((line) => (JSON.parse(line) as { tags: string[] }).tags)).toEqual([
      ['exported'],
      ['exported', 'second'],
    ]);
    expect((await file('csv', '{"kind":')).status).toBe(422);
    expect((await file('csv', { kind: 'person', columns: ['nothing'] })).status).toBe(422);
    expect((await use.house.anonymous.raw('GET', '/api/queries.csv?query=%7B%7D')).status).toBe(401);
  });

  it('never tells of what its reader may not see: not in rows, counts, relations or words', async () => {
    const secret = await person('Hidden Person', { tags: ['secret'], companyName: 'Hidden Firm' });
    await use.pell.call('PUT /api/visibility/:kind/:id', {
      params: { kind: 'people', id: secret.id },
      body: { visibility: 'named', peopleIds: [(await use.pell.call('GET /api/session')).body.id] },
    });
    const filter = { field: 'tags', op: 'hasAny', value: ['secret'] };
    expect(await names(filter)).toEqual(['Hidden Person']);
    expect(await names(filter, use.ines)).toEqual([]);
    const { items } = (
      await use.ines.call('POST /api/queries/totals', {
        body: { query: { kind: 'person', filter, groups: [{ field: 'fullName' }] } },
      })
    ).body;
    expect(items).toEqual([{ keys: [], count: 0, totals: [] }]);
    const taken = await use.ines.raw(
      'GET',
      `/api/queries.jsonl?query=${encodeURIComponent(JSON.stringify({ kind: 'person', filter }))}`,
    );
    expect(taken).toMatchObject({ status: 200, text: '' });
    const firms = await ask(
      { kind: 'company', filter: { relation: 'people', has: 'any', where: filter } },
      use.ines,
    );
    expect(firms.items).toEqual([]);
    const { body } = await use.ines.call('POST /api/queries/words', { body: { words: 'tagged secret' } });
    expect(body.notUnderstood).not.toEqual([]);
  });

  it('reads plain words with what this organisation knows', async () => {
    await person('Ana Sol', {
      tags: ['autumn fair'],
      companyName: 'Padaria Central',
      jobTitle: 'Night Baker',
    });
    const { body } = await use.pell.call('POST /api/queries/words', {
      body: {
        words: 'people at padaria central tagged autumn fair owned by ines or me, by standing, and shiny',
      },
    });
    expect(body).toMatchObject({
      kind: 'person',
      conditions: [
        { field: 'companyName', op: 'is', value: ['Padaria Central'] },
        { field: 'tags', op: 'hasAny', value: ['autumn fair'] },
        { field: 'owner', op: 'is', value: [expect.stringMatching(/^[0-9a-f-]{36}$/), 'me'] },
      ],
      groups: [{ field: 'standing' }],
      notUnderstood: ['shiny'],
    });
  });
});
