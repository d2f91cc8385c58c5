import { spawn } from 'node:child_process';
import { join } from 'node:path';
import ExcelJS from 'exceljs';
import { parseCsv } from '@emporikon/core/formats/csv';
import { databaseUrl, OURS, useHouse } from '../testing/harness';

const { house, pell } = useHouse();

const put = async (raw: string | Buffer, name = 'people.csv', type = 'text/csv') =>
  (await pell.call('POST /api/imports', { raw, type, query: { name } })).body;
type Bench = Awaited<ReturnType<typeof put>>;
const look = async (bench: Bench, choices: object = {}, mapping: object | null = bench.mapping) => {
  await pell.call('PUT /api/imports/:id/mapping', {
    params: { id: bench.id },
    body: { version: bench.version, mapping: mapping ?? { columns: [], hasHead: false }, choices },
  });
  await house.work();
  return get(bench.id);
};
const get = async (id: string) => (await pell.call('GET /api/imports/:id', { params: { id } })).body;
const run = async (id: string) => {
  await pell.call('POST /api/imports/:id/start', { params: { id } });
  await house.work();
  return get(id);
};
const token = async () =>
  `Bearer ${(await pell.call('POST /api/tokens', { body: { name: 't' } })).body.token}`;

const CSV =
  'Name;Firma;E-Mail;Handy;Stichworte\nJörg Müller;Brotwerk GmbH;joerg@brotwerk.example;0171 3920012;fair\nAnna Kühn;Café Kühn;anna@kuehn.example;;\n;;;;\nNur Firma;;kein-email;;\n;Ohne Namen;;;\nJörg Müller;Brotwerk GmbH;joerg@brotwerk.example;0171 3920099;\n';

describe('the bench', () => {
  it('maps columns, says what it would do before it writes, and gives the rest back with the reason', async () => {
    const bench = await put(Buffer.from(CSV, 'latin1'));
    expect(bench.reading).toMatchObject({ separator: ';', encoding: 'windows-1252', hasHead: true });
    expect(bench.mapping?.columns.map((column) => column.field)).toEqual([
      'fullName',
      'companyName',
      'email',
      'phone',
      'tags',
    ]);
    const people = await house.count('people');
    const seen = await look(
      { ...bench, mapping: { ...bench.mapping!, country: 'DE' } },
      { tags: ['import'], consent: 'agreed' },
    );
    expect([seen.state, seen.counts]).toEqual([
      'previewed',
      { new: 3, same: 1, maybe: 0, unusable: 1, 'left out': 1 },
    ]);
    expect(seen.problems.map((problem) => problem.text)).toContainEqual(
      expect.stringMatching(/^left out: .*kein-email|^left out: “…”/),
    );
    expect(await house.count('people')).toBe(people);
    const done = await run(bench.id);
    expect([done.state, done.counts.made, done.counts.changed, done.counts.rejected]).toEqual([
      'done',
      3,
      1,
      1,
    ]);
    const { body } = await pell.call('GET /api/people', { query: { q: 'Müller' } });
    expect(body.items).toMatchObject([{ fullName: 'Jörg Müller', company: { name: 'Brotwerk GmbH' } }]);
    const { body: person } = await pell.call('GET /api/people/:id', {
      params: { id: body.items[0]?.id ?? '' },
    });
    expect(
      person.contacts.filter((contact) => contact.kind === 'phone').map((contact) => contact.normalized),
    ).toEqual(['+491713920012', '+491713920099']);
    expect(person.consents).toEqual([{ purpose: 'News', state: 'agreed' }]);
    expect(person.contacts.find((contact) => contact.kind === 'email')).toMatchObject({
      claim: { source: 'people.csv, row 1' },
    });
    expect(person.tags).toEqual(['fair', 'import']);
    const rejected = await house.app.inject({
      url: `/api/imports/${bench.id}/rejected.csv`,
      headers: { authorization: await token() },
    });
    const { rows } = parseCsv(rejected.body.replace(/^\ufeff/, ''));
    expect(rows).toEqual([
      ['Name', 'Firma', 'E-Mail', 'Handy', 'Stichworte', 'Reason for rejection'],
      ['', 'Ohne Namen', '', '', '', 'it names a company and no person; import it as companies'],
    ]);
  });
  it('remembers how a file of this shape was mapped', async () => {
    const bench = await put('Wer,Wo,Post\nAda Lund,Lund,ada@lund.example\n');
    await look({
      ...bench,
      mapping: {
        ...bench.mapping!,
        columns: [
          { index: 0, field: 'fullName', type: null },
          { index: 1, field: 'companyName', type: null },
          { index: 2, field: 'email', type: null },
        ],
      },
    });
    const again = await put('Wer,Wo,Post\nBo Lund,Lund,bo@lund.example\n');
    expect([again.reading?.remembered, again.mapping?.columns.map((column) => column.field)]).toEqual([
      true,
      ['fullName', 'companyName', 'email'],
    ]);
  });
  it.each([
    ['fill blanks', 'Buyer', 'Head of Buying'],
    ['overwrite', 'Chief Buyer', 'Chief Buyer'],
    ['skip', null, 'Head of Buying'],
  ])('with people we know: %s', async (known, blank, filled) => {
    const name = `Known ${known}`;
    const email = (local: string): string => `${local}.${known.replace(' ', '')}@known.example`;
    const { body: a } = await pell.call('POST /api/people', {
      body: { fullName: `${name} A`, email: email('a') },
    });
    const { body: b } = await pell.call('POST /api/people', {
      body: { fullName: `${name} B`, email: email('b'), jobTitle: 'Head of Buying' },
    });
    const title = known === 'overwrite' ? 'Chief Buyer' : 'Buyer';
    const bench = await put(
      `Name,Email,Job title\n${name} A,${email('a')},${title}\n${name} B,${email('b')},${title}\n`,
      `${known}.csv`,
    );
    const seen = await look(bench, { known });
    expect(seen.counts.same).toBe(2);
    await run(bench.id);
    const titleOf = async (id: string) =>
      (await pell.call('GET /api/people/:id', { params: { id } })).body.jobTitle.value;
    expect([await titleOf(a.person.id), await titleOf(b.person.id)]).toEqual([blank, filled]);
    const { body: undo } = await pell.call('POST /api/imports/:id/undo', { params: { id: bench.id } });
    expect(undo.state).toBe('undoing');
    await house.work();
    expect([await titleOf(a.person.id), await titleOf(b.person.id)]).toEqual([null, 'Head of Buying']);
  });
  it('is taken back as a whole, but for whom something was built on', async () => {
    const before = [await house.count('people'), await house.count('companies'), await house.count('claims')];
    const bench = await put(
      'Name,Email,Company\nUno Back,uno@back.example,Back One\nDue Back,due@back.example,Back Two\n',
      'back.csv',
    );
    await look(bench);
    await run(bench.id);
    const { body } = await pell.call('GET /api/people', { query: { q: 'Due Back' } });
    await pell.call('POST /api/ledger', {
      body: { line: 'called her', about: { personId: body.items[0]?.id } },
    });
    await pell.call('POST /api/imports/:id/undo', { params: { id: bench.id } });
    await house.work();
    const undone = await get(bench.id);
    expect([undone.state, undone.counts.kept]).toEqual(['undone', 1]);
    const after = [await house.count('people'), await house.count('companies'), await house.count('claims')];
    expect(after.map((count, at) => count - (before[at] ?? 0))).toEqual([1, 1, 0]);
  });
  it('stops when it is paused and goes on when it is told to', async () => {
    const bench = await put(
      'Name,Email\nPause One,one@pause.example\nPause Two,two@pause.example\n',
      'pause.csv',
    );
    await look(bench);
    await pell.call('POST /api/imports/:id/start', { params: { id: bench.id } });
    await pell.call('POST /api/imports/:id/pause', { params: { id: bench.id } });
    await house.work();
    expect((await get(bench.id)).state).toBe('paused');
    expect((await pell.call('GET /api/people', { query: { q: 'Pause' } })).body.items).toEqual([]);
    const done = await run(bench.id);
    expect([done.state, done.counts.made]).toEqual(['done', 2]);
  });
  it('takes cards, workbooks and pasted rows', async () => {
    const cards = await put(
      'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Card One\r\nEMAIL:one@cards.example\r\nEND:VCARD\r\nBEGIN:VCARD\r\nVERSION:2.1\r\nN:Two;Card\r\nTEL;CELL:+44 7700 900222\r\nEND:VCARD\r\n',
      'all.vcf',
      'text/vcard',
    );
    expect((await look(cards)).counts.new).toBe(2);
    expect((await run(cards.id)).counts.made).toBe(2);
    const book = new ExcelJS.Workbook();
    const sheet = book.addWorksheet('People');
    sheet.addRow(['First name', 'Last name', 'Email', 'Date of birth']);
    sheet.addRow(['Sheet', 'Person', 'sheet@person.example', new Date(Date.UTC(1985, 3, 12))]);
    const bench = await put(
      Buffer.from(await book.xlsx.writeBuffer()),
      'people.xlsx',
      'application/octet-stream',
    );
    await look(bench);
    await run(bench.id);
    const { body } = await pell.call('GET /api/people', { query: { q: 'Sheet Person' } });
    expect(
      (await pell.call('GET /api/people/:id', { params: { id: body.items[0]?.id ?? '' } })).body.birthday,
    ).toBe('1985-04-12');
    const pasted = await put(
      'Paste Person\tpaste@person.example\nPaste Other\tother@person.example',
      'pasted rows',
      'text/plain',
    );
    expect(pasted.reading).toMatchObject({ hasHead: false, separator: '\t' });
    expect(pasted.mapping?.columns.map((column) => column.field)).toEqual(['fullName', 'email']);
  });
  it('shows the rows of each verdict page by page, is listed newest first, and is forgotten until it is begun', async () => {
    const bench = await put(
      'Name,Email\nRow One,one@rows.example\n,no address\nRow Two,two@rows.example\n',
      'rows.csv',
    );
    await look(bench);
    const at = { params: { id: bench.id } };
    const rows = async (query: Record<string, string>) =>
      (await pell.call('GET /api/imports/:id/rows', { ...at, query })).body;
    const first = await rows({ verdict: 'new', limit: '1' });
    expect(first.items.map(({ values }) => values[0])).toEqual(['Row One']);
    const rest = await rows({ verdict: 'new', limit: '1', after: String(first.next) });
    expect([rest.items.map(({ values }) => values[0]), rest.next]).toEqual([['Row Two'], null]);
    expect((await rows({ verdict: 'unusable' })).items.map(({ reason }) => reason !== '')).toEqual([true]);
    const listed = async () => (await pell.call('GET /api/imports')).body.items.map(({ id }) => id);
    expect((await listed())[0]).toBe(bench.id);
    expect((await pell.call('DELETE /api/imports/:id', at)).status).toBe(200);
    expect(await listed()).not.toContain(bench.id);
    const begun = await put('Name,Email\nRow Three,three@rows.example\n', 'begun.csv');
    await look(begun);
    await run(begun.id);
    expect((await pell.call('DELETE /api/imports/:id', { params: { id: begun.id } })).status).toBe(409);
  });
  it('refuses what is empty or no workbook', async () => {
    const status = async (raw: Buffer | string) =>
      (await pell.call('POST /api/imports', { raw, type: 'application/octet-stream', query: { name: 'x' } }))
        .status;
    expect(await status('')).toBe(422);
    expect(await status(Buffer.from('PK\u0003\u0004 and nothing more'))).toBe(422);
  });
});

it('killed at ten random moments ends with exactly the rows it should', async () => {
  const rows = Array.from(
    { length: 12_000 },
    (_, at) => `Kill${at} Person,kill${at}@firm${at % 500}.example,Firm ${at % 500}`,
  );
  const bench = await put(`Name,Email,Company\n${rows.join('\n')}\n`, 'kill.csv');
  await look(bench);
  const before = await house.count('people');
  await pell.call('POST /api/imports/:id/start', { params: { id: bench.id } });
  const worker = () =>
    spawn(process.execPath, [join(__dirname, '../dist/worker.js')], {
      env: { ...process.env, DATABASE_URL: databaseUrl(), EMPORIKON_OURS: OURS.join(',') },
      stdio: ['ignore', 'pipe', 'inherit'],
    });
  let kills = 0;
  let state = 'running';
  for (let round = 0; round < 40 && state === 'running'; round++) {
    const child = worker();
    const gone = new Promise((done) => child.once('exit', done));
    await new Promise<void>((ready) => child.stdout.once('data', () => ready()));
    const wait = kills < 10 ? Math.random() * 500 : 20_000;
    const until = Date.now() + wait;
    while (Date.now() < until && (await get(bench.id)).state === 'running')
      await new Promise((done) => setTimeout(done, 40));
    child.kill('SIGKILL');
    await gone;
    if (kills < 10) kills++;
    ({ state } = await get(bench.id));
  }
  expect(state).toBe('done');
  const [counts] = await house.sequelize.query(
    "SELECT (SELECT count(*)::int FROM people WHERE full_name LIKE 'Kill% Person') AS people, (SELECT count(DISTINCT normalized)::int FROM contact_points WHERE normalized LIKE 'kill%@firm%.example') AS emails, (SELECT count(*)::int FROM companies WHERE name LIKE 'Firm %') AS firms",
  );
  expect(counts[0]).toEqual({ people: 12_000, emails: 12_000, firms: 500 });
  expect((await house.count('people')) - before).toBe(12_000);
}, 200_000);
