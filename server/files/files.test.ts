import { saying } from '../testing/saying';
import { filing, pdfSaying } from '../testing/filing';
import { useHouse, type Client } from '../testing/harness';

const { house, pell, ines, mara } = useHouse();
const { put, putVersion, files, file, contents } = filing(house);
const { person, company, ledger } = saying(pell);
const undo = (by: Client, id: string | null | undefined) =>
  by.call('POST /api/events/:id/undo', { params: { id: id ?? '' } });
const names = async (by: Client, query: Record<string, string>) =>
  (await files(by, query)).map(({ name }) => name);

/** The bytes of a file as they come, with the headers that say what to do with them. */
async function got(id: string, query = '') {
  const cookie = String(
    (
      await house.app.inject({
        method: 'POST',
        url: '/api/session',
        payload: { email: 'pell@wharfside.example', password: 'a-long-test-password' },
      })
    ).headers['set-cookie'],
  );
  const answer = await house.app.inject({ url: `/api/files/${id}/content${query}`, headers: { cookie } });
  const { 'content-type': type, 'content-disposition': how } = answer.headers;
  return { status: answer.statusCode, bytes: answer.rawPayload, text: answer.body, type, how: String(how) };
}
const PNG = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');

it('a file on a person stands in the ledger of them and their company, and comes back byte for byte', async () => {
  const sol = await company('Padaria Sol');
  const ana = await person('Ana Sol', sol);
  const bytes = Buffer.from([0, 255, 10, 13, 0, 7]);
  const { status, body } = await put(pell, 'scale.bin', bytes, { personId: ana });
  expect(status).toBe(201);
  const { bytes: back, type, how } = await got(body.id);
  expect([back.equals(bytes), type]).toEqual([true, 'application/octet-stream']);
  expect(how).toContain('attachment; filename="scale.bin"');
  for (const about of [{ personId: ana }, { companyId: sol }] as Record<string, string>[]) {
    expect((await ledger(about)).items[0]).toMatchObject({
      kind: 'file',
      headline: 'scale.bin',
      files: [{ id: body.id, name: 'scale.bin', number: 1 }],
    });
    expect(await names(pell, about)).toEqual(['scale.bin']);
  }
  expect((await ledger({ personId: ana })).turn.turn).toBe('nobody');
  await undo(pell, body.eventId);
  expect([await names(pell, { personId: ana }), (await ledger({ personId: ana })).items]).toEqual([[], []]);
});

it('one content is kept once, whatever it is called and wherever it is, and counts once', async () => {
  const [one, two] = [await person('One Twin'), await person('Two Twin')];
  const before = await contents();
  const used = async (): Promise<number> => (await pell.call('GET /api/file-limits')).body.usedBytes;
  const usedBefore = await used();
  await put(pell, 'a.txt', 'the same words', { personId: one });
  await put(ines, 'b.txt', 'the same words', { personId: two });
  expect([await contents(), await used()]).toEqual([before + 1, usedBefore + 14]);
});

it('a newer version is told in the ledger, the earlier stays, and the same again is none', async () => {
  const ana = await person('Ana Versions');
  const { id } = (await put(pell, 'offer.txt', 'eight bikes', { personId: ana })).body;
  expect((await putVersion(ines, id, 'eight bikes')).body).toMatchObject({ number: 1, eventId: null });
  const second = (await putVersion(ines, id, 'nine bikes', 'offer final.txt')).body;
  expect(second.number).toBe(2);
  const { versions, name, isMine } = await file(pell, id);
  expect([name, isMine, versions.map((one) => [one.number, one.name, one.by])]).toEqual([
    'offer final.txt',
    true,
    [
      [2, 'offer final.txt', 'Ines Tolland'],
      [1, 'offer.txt', 'Pell Garrick'],
    ],
  ]);
  expect([(await got(id, '?number=1')).text, (await got(id)).text]).toEqual(['eight bikes', 'nine bikes']);
  expect((await got(id, '?number=3')).status).toBe(404);
  expect((await ledger({ personId: ana })).items.map(({ headline }) => headline)).toEqual(
    expect.arrayContaining(['offer final.txt, version 2', 'offer.txt']),
  );
  await undo(ines, second.eventId);
  expect([(await file(pell, id)).name, (await got(id)).text]).toEqual(['offer.txt', 'eight bikes']);
});

it('files are found by their names and by what texts and PDFs say in their newest version', async () => {
  const ana = await person('Ana Found');
  const pdf = await pdfSaying('Lastenräder für die Bäckerei', 'Delivery in Zanzibar');
  const { id } = (await put(pell, 'Prospectus_2027.pdf', pdf, { personId: ana })).body;
  const note = (await put(pell, 'notes.txt', 'Kettles, quixotic kettles', { personId: ana })).body.id;
  await house.work();
  for (const [q, found] of [
    ['prospectus', ['Prospectus_2027.pdf']],
    ['2027', ['Prospectus_2027.pdf']],
    ['BACKEREI lasten', ['Prospectus_2027.pdf']],
    ['zanzib', ['Prospectus_2027.pdf']],
    ['quixot', ['notes.txt']],
    ['zanzibar kettles', []],
    ["kett' | 'zanz", []],
    ['!!!', []],
  ] as const)
    expect([q, await names(pell, { q })]).toEqual([q, found]);
  expect((await pell.call('GET /api/search', { query: { q: 'quixotic' } })).body.items).toEqual([
    { kind: 'file', id: note, label: 'notes.txt', hint: 'Ana Found', inactive: false },
  ]);
  expect((await file(pell, note)).text).toBe('Kettles, quixotic kettles');
  await putVersion(pell, note, 'Nothing of that');
  await house.work();
  expect(await names(pell, { q: 'quixotic' })).toEqual([]);
  expect((await got(id, '?show=here')).how).toMatch(/^inline/);
});

it('what a file is goes by its bytes: nothing that a browser would run is shown, programs are refused', async () => {
  const ana = await person('Ana Hostile');
  const where = { personId: ana };
  const page = (await put(pell, 'photo.png', '<script>alert(1)</script>', where)).body.id;
  expect(await got(page, '?show=here')).toMatchObject({
    type: 'text/plain',
    how: expect.stringMatching(/^attachment/) as string,
  });
  const drawing = (await put(pell, 'drawing.svg', '<svg xmlns="x"><script/></svg>', where)).body.id;
  expect((await got(drawing, '?show=here')).how).toMatch(/^attachment/);
  const picture = (await put(pell, 'really.html', PNG, where)).body.id;
  expect(await got(picture, '?show=here')).toMatchObject({ type: 'image/png' });
  for (const [name, bytes] of [
    ['setup.exe', 'harmless words'],
    ['Setup.EXE', 'harmless words'],
    ['letter.pdf', 'MZ\u0090\0'],
    ['run', '#!/bin/sh\nrm -rf /'],
    ['lib.txt', '\x7fELF\x02'],
  ] as const) {
    const answer = await put(pell, name, Buffer.from(bytes, 'latin1'), where);
    expect([name, answer.status, String(answer.body.detail)]).toEqual([
      name,
      422,
      expect.stringMatching(/program/),
    ]);
  }
  expect((await put(pell, 'nothing.txt', '', where)).status).toBe(422);
  const sly = (await put(pell, '../../etc/passwd', 'root', where)).body.id;
  expect((await got(sly)).how).toContain('filename="passwd"');
  expect((await putVersion(pell, sly, 'MZ program', 'passwd')).status).toBe(422);
});

it('a file that is too large, or more than the allowance, is not taken; only managers change that', async () => {
  const ana = await person('Ana Limits');
  const limits = (await mara.call('GET /api/file-limits')).body;
  const set = (by: Client, patch: Record<string, unknown>) =>
    by.call('PATCH /api/file-limits', {
      body: { version: limits.version, ...patch },
    });
  expect((await set(pell, { mostFileBytes: 10 })).status).toBe(403);
  const changed = await set(mara, { mostFileBytes: 10, refused: ['.TXT', 'exe', 'exe'] });
  expect(changed.status).toBe(200);
  expect((await mara.call('GET /api/file-limits')).body.refused).toEqual(['exe', 'txt']);
  expect((await put(pell, 'large.csv', 'eleven bytes', { personId: ana })).body.detail).toContain('10 bytes');
  expect((await put(pell, 'small.txt', 'small', { personId: ana })).status).toBe(422);
  expect((await put(pell, 'small.csv', 'small', { personId: ana })).status).toBe(201);
  await undo(mara, changed.body.eventId);
  await house.sequelize.query('UPDATE file_limits SET most_bytes = (SELECT bytes + 5 FROM file_usage)');
  expect((await put(pell, 'six.csv', 'sixsix', { personId: ana })).body.detail).toMatch(/used up/);
  // What is kept already takes no more.
  expect((await put(pell, 'again.csv', 'small', { personId: ana })).status).toBe(201);
  await house.sequelize.query('UPDATE file_limits SET most_bytes = 5368709120');
});

it('a file of a record one does not see is not found in any way, nor by its words', async () => {
  const ana = await person('Ana Hidden');
  const { id } = (await put(pell, 'secret xylophone.txt', 'words of a marimba', { personId: ana })).body;
  await house.work();
  expect(await names(ines, { q: 'xylophone' })).toEqual(['secret xylophone.txt']);
  await pell.call('PUT /api/visibility/:kind/:id', {
    params: { kind: 'people', id: ana },
    body: { visibility: 'owner' },
  });
  for (const q of ['xylophone', 'marimba']) {
    expect([q, await names(ines, { q }), (await names(pell, { q })).length]).toEqual([q, [], 1]);
    expect((await ines.call('GET /api/search', { query: { q } })).body.items).toEqual([]);
  }
  expect((await ines.call('GET /api/files/:id', { params: { id } })).status).toBe(404);
  expect((await ines.raw('GET', `/api/files/${id}/content`)).status).toBe(404);
  expect((await putVersion(ines, id, 'other words')).status).toBe(404);
  expect((await put(ines, 'mine.txt', 'x', { personId: ana })).status).toBe(422);
});

it('a file is renamed and removed by who added it or a manager, and comes back with its versions', async () => {
  const ana = await person('Ana Removed');
  const { id } = (await put(pell, 'draft.txt', 'first draft', { personId: ana })).body;
  await putVersion(pell, id, 'second draft');
  const { version } = await file(pell, id);
  const named = await ines.call('PATCH /api/files/:id', {
    params: { id },
    body: { version, name: 'plan.txt' },
  });
  expect(named.status).toBe(200);
  expect((await ledger({ personId: ana })).items.map(({ headline }) => headline)).toContain('plan.txt');
  const stale = { params: { id }, body: { version, name: 'other.txt' } };
  expect((await pell.call('PATCH /api/files/:id', stale)).status).toBe(409);
  expect((await ines.call('DELETE /api/files/:id', { params: { id } })).status).toBe(403);
  const removed = await mara.call('DELETE /api/files/:id', { params: { id } });
  expect([removed.status, (await ledger({ personId: ana })).items]).toEqual([200, []]);
  await undo(mara, removed.body.eventId);
  expect((await file(pell, id)).versions).toHaveLength(2);
  expect((await got(id, '?number=1')).text).toBe('first draft');
});

it('a task has files of its own, which stand with its record, go with it and come back with it', async () => {
  const ana = await person('Ana Tasks');
  const { task } = (
    await pell.call('POST /api/tasks', {
      body: { title: 'Send the plan', dueAt: '2030-01-04T10:00:00Z', personId: ana },
    })
  ).body;
  const { id } = (await put(pell, 'site plan.txt', 'two doors', { taskId: task.id })).body;
  expect(await names(pell, { taskId: task.id })).toEqual(['site plan.txt']);
  expect((await files(pell, { personId: ana }))[0]).toMatchObject({ id, task: { name: 'Send the plan' } });
  const { eventId } = (await pell.call('DELETE /api/tasks/:id', { params: { id: task.id } })).body;
  expect(await names(pell, { personId: ana })).toEqual([]);
  await undo(pell, eventId);
  expect(await names(pell, { taskId: task.id })).toEqual(['site plan.txt']);
  expect((await put(pell, 'x.txt', 'x', { taskId: crypto.randomUUID() })).status).toBe(422);
});

it('a command that is given twice with one key adds one file', async () => {
  const ana = await person('Ana Twice');
  const headers = { 'idempotency-key': 'files-test-twice' };
  const given = {
    raw: Buffer.from('once'),
    type: 'application/octet-stream',
    query: { name: 'once.txt', personId: ana },
    headers,
  };
  const [first, second] = [
    await pell.call('POST /api/files', given),
    await pell.call('POST /api/files', given),
  ];
  expect([second.body.id, await names(pell, { personId: ana })]).toEqual([first.body.id, ['once.txt']]);
});

it('pages of files follow each other without gaps', async () => {
  const ana = await person('Ana Pages');
  for (let n = 1; n <= 5; n++) await put(pell, `page ${n}.txt`, `page ${n}`, { personId: ana });
  const seen: string[] = [];
  let cursor: string | undefined;
  do {
    const { body } = await pell.call('GET /api/files', {
      query: { personId: ana, limit: '2', ...(cursor ? { cursor } : {}) },
    });
    seen.push(...body.items.map(({ name }) => name));
    cursor = body.next ?? undefined;
  } while (cursor);
  expect(seen).toEqual([5, 4, 3, 2, 1].map((n) => `page ${n}.txt`));
});
