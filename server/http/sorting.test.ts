import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();
type Query = Record<string, string>;
type Value = string | number | null;

const COMPANIES = [
  ['Alder Ovens', 'Bakery', 'PT', 40],
  ['Birch Couriers', 'Courier', null, 7],
  ['Cedar Blooms', null, 'GB', 7],
  ['Dogwood Catering', 'Catering', 'GB', null],
  ['Elm Works', 'Bakery', null, 300],
] as const;
const PEOPLE = [
  ['Ada Alder', 'Baker', 'Alder Ovens'],
  ['Bea Birch', null, 'Birch Couriers'],
  ['Cid Cedar', 'Buyer', null],
  ['Dee Dogwood', 'Baker', 'Alder Ovens'],
  ['Eli Elm', null, null],
] as const;

beforeAll(async () => {
  for (const [name, industry, country, employees] of COMPANIES) {
    const { body } = await pell.call('POST /api/companies', { body: { name } });
    await house.sequelize.query(
      'UPDATE companies SET industry = :industry, country = :country, employees = :employees WHERE id = :id',
      { replacements: { id: body.company.id, industry, country, employees } },
    );
  }
  for (const [at, [fullName, jobTitle, companyName]] of PEOPLE.entries()) {
    const { person } = (await pell.call('POST /api/people', { body: { fullName, jobTitle, companyName } }))
      .body;
    const lead = { title: `Lead ${9 - at}`, personId: person.id, source: at % 2 ? 'fair' : 'website' };
    await pell.call('POST /api/leads', { body: lead });
    await pell.call('POST /api/deals', {
      body: {
        title: `Deal ${9 - at}`,
        personId: person.id,
        companyId: person.company?.id,
        ...(at % 2 ? {} : { amountMinor: 1000 * at, expectedClose: `2030-0${at + 1}-10` }),
      },
    });
  }
});

/** All of a list, two rows at a time. */
async function pages<Row>(
  read: (query: Query) => Promise<{ body: { items: Row[]; next: string | null } }>,
  query: Query,
): Promise<Row[]> {
  const rows: Row[] = [];
  for (let cursor: string | null = ''; cursor !== null;) {
    const { items, next }: { items: Row[]; next: string | null } = (
      await read({ ...query, limit: '2', ...(cursor ? { cursor } : {}) })
    ).body;
    rows.push(...items);
    cursor = next;
  }
  return rows;
}

/** By plain comparison, those without a value last whichever way it is sorted. */
function inOrder(values: readonly Value[], direction: string): Value[] {
  const known = values.filter((value) => value !== null).sort((a, b) => (a < b ? -1 : a > b ? 1 : 0));
  return [...(direction === 'asc' ? known : known.reverse()), ...values.filter((value) => value === null)];
}

const LISTS: [string, Record<string, (row: never) => Value>, (query: Query) => Promise<never>][] = [
  [
    'people',
    {
      name: (row: { fullName: string }) => row.fullName,
      jobTitle: (row: { jobTitle: string | null }) => row.jobTitle,
      company: (row: { company: { name: string } | null }) => row.company?.name ?? null,
      standing: (row: { standing: string }) => row.standing,
    },
    (query) => pell.call('GET /api/people', { query }) as Promise<never>,
  ],
  [
    'companies',
    {
      name: (row: { name: string }) => row.name,
      domain: (row: { domain: string | null }) => row.domain,
      industry: (row: { industry: string | null }) => row.industry,
      country: (row: { country: string | null }) => row.country,
      employees: (row: { employees: number | null }) => row.employees,
    },
    (query) => pell.call('GET /api/companies', { query }) as Promise<never>,
  ],
  [
    'leads',
    {
      title: (row: { title: string }) => row.title,
      created: (row: { createdAt: string }) => row.createdAt,
      chance: (row: { scores: { chance: number } | null }) => row.scores?.chance ?? null,
      fit: (row: { scores: { fit: number } | null }) => row.scores?.fit ?? null,
      warmth: (row: { scores: { warmth: number } | null }) => row.scores?.warmth ?? null,
      status: (row: { status: string }) => row.status,
    },
    (query) => pell.call('GET /api/leads', { query }) as Promise<never>,
  ],
  [
    'deals',
    {
      title: (row: { title: string }) => row.title,
      amount: (row: { amountMinor: number | null }) => row.amountMinor,
      expectedClose: (row: { expectedClose: string | null }) => row.expectedClose,
      since: (row: { stageSince: string }) => row.stageSince,
    },
    (query) => pell.call('GET /api/deals', { query }) as Promise<never>,
  ],
];
const CASES = LISTS.flatMap(([list, columns, read]) =>
  Object.entries(columns).flatMap(([sort, value]) =>
    ['asc', 'desc'].map((direction) => ({ list, sort, direction, value, read })),
  ),
);

it.each(CASES)(
  '$list by $sort, $direction: each row once over the pages, in order, the empty ones last',
  async ({ list, sort, direction, value, read }) => {
    const rows = await pages(read, { sort, direction });
    const ids = (rows as { id: string }[]).map(({ id }) => id);
    expect([ids.length, new Set(ids).size]).toEqual([5, 5]);
    const values = rows.map((row) => value(row as never));
    expect([list, sort, values]).toEqual([list, sort, inOrder(values, direction)]);
  },
);

it('a cursor is good for the order it was made in, and for no other', async () => {
  const { next } = (await pell.call('GET /api/people', { query: { sort: 'jobTitle', limit: '2' } })).body;
  const status = async (query: Query) =>
    (await pell.call('GET /api/people', { query: { ...query, cursor: next ?? '' } })).status;
  expect(await status({ sort: 'jobTitle' })).toBe(200);
  expect(await status({ sort: 'jobTitle', direction: 'desc' })).toBe(422);
  expect(await status({ sort: 'company' })).toBe(422);
  expect(await status({})).toBe(422);
});

it('leads and deals are found by words of their title, of the person or of the company', async () => {
  const titles = async (q: string, rest: Query = {}) => [
    (await pell.call('GET /api/leads', { query: { q, ...rest, sort: 'title' } })).body.items.map(
      (x) => x.title,
    ),
    (await pell.call('GET /api/leads', { query: { q, ...rest } })).body.items.length,
    (await pell.call('GET /api/leads', { query: { q, ...rest, sort: 'chance' } })).body.items.length,
  ];
  expect(await titles('lead 7')).toEqual([['Lead 7'], 1, 1]);
  expect(await titles('alder')).toEqual([['Lead 6', 'Lead 9'], 2, 2]);
  expect(await titles('dee')).toEqual([['Lead 6'], 1, 1]);
  expect(await titles('', { source: 'fair' })).toEqual([['Lead 6', 'Lead 8'], 2, 2]);
  expect(await titles('nobody')).toEqual([[], 0, 0]);
  const deals = async (q: string) =>
    (await pell.call('GET /api/deals', { query: { q, sort: 'title' } })).body.items.map(({ title }) => title);
  expect(await deals('deal 5')).toEqual(['Deal 5']);
  expect(await deals('alder ovens')).toEqual(['Deal 6', 'Deal 9']);
  const [pipeline] = (await pell.call('GET /api/pipelines')).body.items;
  const id = pipeline?.id ?? '';
  const { stages } = (await pell.call('GET /api/pipelines/:id/board', { params: { id } })).body;
  const stageId = stages.find(({ count }) => count > 0)?.id ?? '';
  const onBoard = async (q: string) => {
    const board = (await pell.call('GET /api/pipelines/:id/board', { params: { id }, query: { q } })).body;
    const params = { id, stageId };
    const lane = (await pell.call('GET /api/pipelines/:id/board/:stageId', { params, query: { q } })).body;
    return [board.open, board.deals.length, lane.items.map(({ title }) => title).sort()];
  };
  expect(await onBoard('alder ovens')).toEqual([2, 2, ['Deal 6', 'Deal 9']]);
  expect(await onBoard('nobody')).toEqual([0, 0, []]);
});

it('calls are narrowed by part of a name or number, by way and by what is missing; imports by the name of the file', async () => {
  const [ada] = (await pell.call('GET /api/people', { query: { q: 'ada alder' } })).body.items;
  const { id: me } = (await pell.call('GET /api/session')).body;
  const calls = [
    ['in', '+447700900111', '+442079460000', 'missed', ada?.id ?? null],
    ['out', '+442079460000', '+447700900222', 'ended', null],
    ['in', '+447700900333', '+442079460000', 'ended', null],
  ] as const;
  for (const [at, [direction, from, to, state, personId]] of calls.entries())
    await house.sequelize.query(
      `INSERT INTO calls (id, exchange_id, user_id, direction, from_number, to_number, state, started_at, person_id, saved_at)
       VALUES (gen_random_uuid(), :key, :me, :direction, :from, :to, :state, now() - make_interval(hours => :at), :personId, :saved)`,
      {
        replacements: {
          key: `sorted-${at}`,
          me,
          direction,
          from,
          to,
          state,
          at,
          personId,
          saved: at === 2 ? new Date() : null,
        },
      },
    );
  const numbers = async (query: Query) =>
    (await pages((given) => pell.call('GET /api/calls', { query: given }), query)).map(({ number }) =>
      number.slice(-3),
    );
  expect(await numbers({})).toEqual(['111', '222', '333']);
  expect(await numbers({ direction: 'asc' })).toEqual(['333', '222', '111']);
  expect((await numbers({ sort: 'person' }))[0]).toBe('111');
  expect(await numbers({ q: 'alder' })).toEqual(['111']);
  expect(await numbers({ q: '900 222' })).toEqual(['222']);
  expect(await numbers({ q: 'nobody' })).toEqual([]);
  expect(await numbers({ way: 'out' })).toEqual(['222']);
  expect(await numbers({ state: 'missed' })).toEqual(['111']);
  expect(await numbers({ state: 'unlogged' })).toEqual(['111', '222']);
  for (const name of ['fair.csv', 'autumn list.csv'])
    await pell.call('POST /api/imports', { raw: 'Name\nAda\n', type: 'text/csv', query: { name } });
  const files = async (query: Query) =>
    (await pages((given) => pell.call('GET /api/imports', { query: given }), query)).map(({ name }) => name);
  expect(await files({})).toEqual(['autumn list.csv', 'fair.csv']);
  expect(await files({ sort: 'name', direction: 'desc' })).toEqual(['fair.csv', 'autumn list.csv']);
  expect(await files({ q: 'FAIR' })).toEqual(['fair.csv']);
  expect(await files({ state: 'undone' })).toEqual([]);
  const [{ state = '' } = {}] = (await pell.call('GET /api/imports', { query: { q: 'fair' } })).body.items;
  expect(await files({ q: 'fair', state })).toEqual(['fair.csv']);
});
