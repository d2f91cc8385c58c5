import { runInTransaction } from '../commands/context';
import { addPerson } from '../people/commands';
import { workbook } from '../testing/hostile';
import { useHouse } from '../testing/harness';

const { house, pell } = useHouse();

type Bench = Awaited<ReturnType<typeof put>>;
const put = async (raw: string | Buffer, name = 'table.csv', type = 'text/csv') =>
  (await pell.call('POST /api/imports', { raw, type, query: { name } })).body;
const get = async (id: string) => (await pell.call('GET /api/imports/:id', { params: { id } })).body;
const become = async (bench: Bench, target: 'people' | 'companies' | 'deals') =>
  (
    await pell.call('POST /api/imports/:id/target', {
      params: { id: bench.id },
      body: { version: bench.version, target },
    })
  ).body;
const look = async (bench: Bench, choices: object = {}) => {
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: bench.mapping, choices },
  });
  await house.work();
  return get(bench.id);
};
const act = async (id: string, what: 'start' | 'undo') => {
  await pell.call(`POST /api/imports/:id/${what}`, { params: { id } });
  await house.work();
  return get(id);
};

const COMPANIES =
  'Company,Website,Country,Employees,Industry\nPadaria Sol,https://www.padariasol.example,PT,12,Bakeries\nKurier Nord GmbH,kuriernord.example,Germany,40,Couriers\n,,,,\nPadaria do Sol,padariasol.example,PT,14,\n';

it('companies are told by their headings, found by domain or name, made, and taken back as a whole', async () => {
  const before = await house.count('companies');
  const bench = await become(await put(COMPANIES, 'companies.csv'), 'companies');
  expect(bench.mapping?.columns.map((column) => column.field)).toEqual([
    'companyName',
    'domain',
    'country',
    'employees',
    'industry',
  ]);
  const seen = await look(bench);
  expect(seen.counts).toMatchObject({ new: 3, unusable: 0, 'left out': 1 });
  expect(await house.count('companies')).toBe(before);
  const done = await act(bench.id, 'start');
  expect([done.state, done.counts.made, done.counts['left alone']]).toEqual(['done', 2, 1]);
  const { body } = await pell.call('GET /api/companies', { query: { q: 'Padaria' } });
  expect(body.items).toHaveLength(1);
  const { body: firm } = await pell.call('GET /api/companies/:id', {
    params: { id: body.items[0]?.id ?? '' },
  });
  expect(JSON.stringify(firm)).toContain('padariasol.example');
  const undone = await act(bench.id, 'undo');
  expect(undone.state).toBe('undone');
  expect(await house.count('companies')).toBe(before);
});

it('deals are linked to companies by id, by domain and by name, and to people by address', async () => {
  const { body: person } = await pell.call('POST /api/people', {
    body: { fullName: 'Ines Duarte', email: 'ines@padariasol.example', companyName: 'Padaria Sol' },
  });
  const { body: made } = await pell.call('POST /api/companies', {
    body: { name: 'By Id Ltd', domain: null },
  });
  const table = [
    'Deal;Amount;Currency;Stage;Close date;Company;Company ID;Website;E-mail',
    `By id;1.200,50;EUR;Proposal;31.12.2026;;${made.company.id};;`,
    'By domain;¥90,000;JPY;;;Somebody Else;;padariasol.example;ines@padariasol.example',
    'By name;500;GBP;;;New Firm Ltd;;;',
    'No such stage;1;EUR;Never;;;;;',
    ';5;EUR;;;Nameless;;;',
  ].join('\n');
  const bench = await become(await put(table, 'deals.csv'), 'deals');
  const seen = await look(bench);
  expect(seen.counts).toMatchObject({ new: 3, unusable: 2 });
  const done = await act(bench.id, 'start');
  expect([done.state, done.counts.made, done.counts.rejected]).toEqual(['done', 3, 2]);
  const { body: deals } = await pell.call('GET /api/deals');
  const of = (title: string) => deals.items.find((item) => item.title === title);
  expect(of('By id')).toMatchObject({
    company: { name: 'By Id Ltd' },
    amountMinor: 120_050,
    currency: 'EUR',
  });
  expect(of('By domain')).toMatchObject({
    company: { name: 'Padaria Sol' },
    amountMinor: 90_000,
    currency: 'JPY',
  });
  expect(of('By name')).toMatchObject({
    company: { name: 'New Firm Ltd' },
    amountMinor: 50_000,
    currency: 'GBP',
  });
  const [roles] = await house.sequelize.query('SELECT person_id FROM deal_roles');
  expect(roles).toContainEqual({ person_id: person.person.id });
  await act(bench.id, 'undo');
  expect((await pell.call('GET /api/deals')).body.items).toEqual([]);
});

it('a second sheet is named and can be taken, and a small workbook is opened', async () => {
  const cell = (at: string, text: string): string => `<c r="${at}" t="inlineStr"><is><t>${text}</t></is></c>`;
  const raw = workbook(
    `<row r="1">${cell('A1', 'Name')}${cell('B1', 'Email')}</row><row r="2">${cell('A2', 'Ann SHEET')}${cell('B2', 'ann@SHEET.example')}</row>`,
    ['first', 'second'],
  );
  expect(raw.length).toBeLessThan(4000);
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
  const bench = await put(raw, 'two.xlsx', type);
  expect([bench.reading?.sheets, bench.reading?.columns[1]?.samples]).toEqual([
    ['first', 'second'],
    ['ann@first.example'],
  ]);
  const other = await pell.call('POST /api/imports/:id/sheet', {
    params: { id: bench.id },
    body: { version: bench.version, sheet: 1 },
  });
  expect(other.body.reading?.columns[1]?.samples).toEqual(['ann@second.example']);
  await look(other.body);
  await act(bench.id, 'start');
  expect((await pell.call('GET /api/people', { query: { q: 'Ann second' } })).body.items).toHaveLength(1);
});

it('an address held by somebody else, or twice in the file, costs neither the chunk nor the row', async () => {
  await pell.call('POST /api/people', { body: { fullName: 'Holder Hill', email: 'shared@hill.example' } });
  const bench = await put(
    'Name,Email,Phone\nGwen Vale,shared@hill.example,\nHuw Reed,twice@reed.example,\nIda Reed,twice@reed.example,123\nBad Mail,not-an-address,\n',
  );
  const seen = await look(bench, { maybe: 'as new' });
  expect(seen.state).toBe('previewed');
  expect(seen.counts['left out']).toBe(2);
  const done = await act(bench.id, 'start');
  expect([done.state, done.trouble]).toEqual(['done', '']);
  const [rows] = await house.sequelize.query(
    "SELECT normalized, count(*)::int AS n FROM contact_points WHERE kind = 'email' GROUP BY 1 HAVING count(*) > 1",
  );
  expect(rows).toEqual([]);
});

it('who was taken in the moment between judging and writing is judged anew', async () => {
  const bench = await put('Name,Email\nLate Comer,late@comer.example\nOther One,other@one.example\n');
  await look(bench);
  // Taken by somebody else after the preview, and without an event that would say so.
  const { body } = await pell.call('POST /api/people', { body: { fullName: 'First Comer' } });
  await house.sequelize.query(
    "INSERT INTO contact_points (id, person_id, kind, value, normalized, created_at) VALUES (gen_random_uuid(), :id, 'email', 'late@comer.example', 'late@comer.example', now())",
    { replacements: { id: body.person.id } },
  );
  const done = await act(bench.id, 'start');
  expect([done.state, done.done]).toEqual(['done', 2]);
  expect(done.done).toBeLessThanOrEqual(done.total);
});

it('taking an import back leaves what was edited by hand, and stops on nothing that was built since', async () => {
  const { body: known } = await pell.call('POST /api/people', {
    body: { fullName: 'Known Before', email: 'known@before.example' },
  });
  const bench = await put(
    'Name,Email,Job title,Address\nKnown Before,known@before.example,Buyer,1 Quay\nRelated New,related@new.example,Baker,\nEdited New,edited@new.example,Baker,\nPlain New,plain@new.example,Baker,\n',
  );
  await look(bench);
  await act(bench.id, 'start');
  const idOf = async (q: string) =>
    (await pell.call('GET /api/people', { query: { q } })).body.items[0]?.id ?? '';
  const [related, edited, plain] = [
    await idOf('Related New'),
    await idOf('Edited New'),
    await idOf('Plain New'),
  ];
  const { body: kinds } = await pell.call('GET /api/relation-kinds');
  expect(
    (
      await pell.call('POST /api/people/:id/relations', {
        params: { id: related },
        body: { kindId: kinds.items[0]?.id, personId: known.person.id },
      })
    ).status,
  ).toBe(201);
  for (const [id, jobTitle] of [
    [edited, 'Edited by hand'],
    [known.person.id, 'Head buyer'],
  ] as const) {
    const { body } = await pell.call('GET /api/people/:id', { params: { id } });
    await pell.call('PATCH /api/people/:id', { params: { id }, body: { version: body.version, jobTitle } });
  }
  const undone = await act(bench.id, 'undo');
  expect(undone.state).toBe('undone');
  const look2 = async (id: string) => pell.call('GET /api/people/:id', { params: { id } });
  expect((await look2(related)).status).toBe(200);
  expect((await look2(edited)).body.jobTitle.value).toBe('Edited by hand');
  expect((await look2(plain)).status).toBe(404);
  const { body: back } = await look2(known.person.id);
  expect([back.jobTitle.value, back.address.value]).toEqual(['Head buyer', null]);
});

it('a preview knows of no command that had not ended when it began, however low its number: its rows are judged again', async () => {
  let finish: () => void = () => undefined;
  let isWritten: () => void = () => undefined;
  const written = new Promise<void>((resolve) => (isWritten = resolve));
  const slow = runInTransaction(house.tools, null, async (context) => {
    await addPerson(context, { fullName: 'Sela Slow', email: 'sela@slow.example' });
    isWritten();
    await new Promise<void>((resolve) => (finish = resolve));
  });
  await written;
  const bench = await put('Name,Email\nSela Slow,sela@slow.example\n', 'slow.csv');
  expect((await look(bench)).counts).toMatchObject({ new: 1, same: 0 });
  finish();
  await slow;
  const done = await act(bench.id, 'start');
  expect([done.state, done.counts.made ?? 0]).toEqual(['done', 0]);
  expect((await pell.call('GET /api/people', { query: { q: 'Sela Slow' } })).body.items).toHaveLength(1);
});

it.each([
  [
    'companies',
    'Company,Employees,Country\nToo Many GmbH,999999999999,DE\nHalf Ltd,12.5,GB\n',
    ['Too Many GmbH', 'Half Ltd'],
  ],
  [
    'deals',
    'Deal,Value,Close date,Company\nHuge,99999999999999999999,1.1.2027,Big AB\nNever,100,30.02.2027,Big AB\nFar off,100,31.12.9999,Big AB\n',
    ['Huge', 'Never'],
  ],
] as const)(
  '%s with cells that nothing can hold are made without those cells',
  async (target, csv, names) => {
    const rows = csv.trim().split('\n').length - 1;
    const bench = await become(await put(csv), target);
    const seen = await look(bench);
    expect(seen.counts).toMatchObject({ new: rows, unusable: 0 });
    expect(seen.problems.map((problem) => problem.text).join(' ')).toMatch(
      /is not (?:a number of people|an amount|a day)/,
    );
    expect((await act(bench.id, 'start')).counts.made).toBe(rows);
    const { status, body } = await pell.call(`GET /api/${target}`, { query: { limit: '100' } });
    expect(status).toBe(200);
    expect(JSON.stringify(body)).toContain(names[0]);
    expect(JSON.stringify(body)).toContain(names[1]);
  },
);
