import { lettering } from '../testing/lettering';
import { mail, useHouse } from '../testing/harness';
import { saying } from '../testing/saying';

const { house, pell, ines } = useHouse();
const { person } = saying(pell);
const { begin, change, send, pass, show, last, reachable: add } = lettering(house);
const reachable = (name: string, email: string): Promise<string> => add(pell, name, email);
const ledgerOf = async (personId: string, by = pell) =>
  (await by.call('GET /api/ledger', { query: { personId } })).body.items;
beforeEach(() => void (house.letters.length = 0));

it('a letter to somebody goes to their address, waits ten seconds, and stands in their ledger once it went out', async () => {
  const ana = await reachable('Ana Leça', 'ana@padaria.example');
  const draft = await begin(pell, { about: { personId: ana } });
  expect(draft.recipients).toMatchObject([{ way: 'to', address: 'ana@padaria.example', name: 'Ana Leça' }]);
  const letter = await change(pell, draft, {
    subject: 'Your two long bikes',
    html: '<p>Dear Ana,</p><p>shall I come by on <strong>Monday</strong>?</p>',
  });
  const { status, body } = await send(pell, letter);
  expect([status, body.letter]).toMatchObject([200, { state: 'waiting' }]);
  await house.work();
  expect(house.letters).toEqual([]);
  expect((await ledgerOf(ana)).some(({ kind }) => kind === 'mail')).toBe(false);
  await pass();
  const message = await last();
  expect(message.envelope).toEqual({ from: 'pell@wharfside.example', to: ['ana@padaria.example'] });
  expect(message.from?.text).toBe('"Pell Garrick" <pell@wharfside.example>');
  expect(message.messageId).toBe(`<letter.${letter.id}@wharfside.example>`);
  expect(message.text).toContain('shall I come by on Monday?');
  expect(message.html).toContain('<strong>Monday</strong>');
  expect(message.headers.has('auto-submitted')).toBe(false);
  const [entry] = await ledgerOf(ana, ines);
  expect(entry).toMatchObject({
    ...{ kind: 'mail', side: 'ours', headline: 'Your two long bikes', actor: 'Pell Garrick' },
    letter: [{ address: 'ana@padaria.example', state: 'sent' }],
  });
  expect(await show(pell, letter.id)).toMatchObject({ state: 'sent', recipients: [{ state: 'sent' }] });
  await house.work();
  expect(house.letters).toHaveLength(1);
});

it('is taken back within ten seconds by undo or by hand, and never after it went out', async () => {
  const rui = await reachable('Rui Brito', 'rui@mercado.example');
  const first = await change(pell, await begin(pell, { about: { personId: rui } }), { subject: 'One' });
  const { body } = await send(pell, first);
  expect((await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } })).status).toBe(
    200,
  );
  expect(await show(pell, first.id)).toMatchObject({ state: 'draft', leavesAt: null });
  const again = await send(pell, await show(pell, first.id));
  expect(
    (await pell.call('DELETE /api/letters/:id/sending', { params: { id: first.id } })).body.letter,
  ).toMatchObject({
    state: 'draft',
  });
  await pass();
  expect(house.letters).toEqual([]);
  expect(again.status).toBe(200);
  const third = await send(pell, await show(pell, first.id));
  await pass();
  expect(house.letters).toHaveLength(1);
  expect((await pell.call('DELETE /api/letters/:id/sending', { params: { id: first.id } })).status).toBe(409);
  expect(
    (await pell.call('POST /api/events/:id/undo', { params: { id: third.body.eventId ?? '' } })).status,
  ).toBe(409);
  expect(
    (
      await pell.call('PATCH /api/letters/:id', {
        params: { id: first.id },
        body: { version: 9, subject: 'x' },
      })
    ).status,
  ).toBe(409);
});

it('waits until the time that was chosen, though the worker looks earlier', async () => {
  const id = await reachable('Later Lane', 'later@lane.example');
  const letter = await change(pell, await begin(pell, { about: { personId: id } }), { subject: 'Later' });
  const at = new Date(Date.now() + 3 * 86_400_000).toISOString();
  expect((await send(pell, letter, { at })).body.letter.leavesAt).toBe(at);
  await pass();
  expect(house.letters).toEqual([]);
  expect((await show(pell, letter.id)).state).toBe('waiting');
  await pass(4 * 86_400_000);
  expect(house.letters).toHaveLength(1);
  const far = await change(pell, await begin(pell, { about: { personId: id } }), { subject: 'Far' });
  expect((await send(pell, far, { at: '2099-01-01T09:00:00Z' })).status).toBe(422);
});

it('names what a letter lacks, and keeps the draft', async () => {
  const id = await person('No Address');
  const letter = await begin(pell, { about: { personId: id } });
  expect((await send(pell, letter)).body.fields).toEqual({ recipients: 'is empty' });
  const to = [{ way: 'to', address: 'someone@else.example' }];
  const addressed = await change(pell, letter, { recipients: to });
  expect((await send(pell, addressed)).body.fields).toEqual({ subject: 'is empty' });
  const gap = await change(pell, addressed, { subject: 'Hi', html: '<p>Dear {{ person.birthday }}</p>' });
  expect(gap.gaps).toEqual(['Birthday']);
  expect((await send(pell, gap)).body.detail).toBe('Still to be filled in: Birthday. The draft is kept.');
});

it('blind copies get the letter and stand in no header; each address gets it once', async () => {
  const id = await reachable('Header Hal', 'hal@header.example');
  const letter = await change(pell, await begin(pell, { about: { personId: id } }), {
    subject: 'Copies',
    html: '<p>x</p>',
    recipients: [
      { way: 'to', address: 'hal@header.example' },
      { way: 'cc', address: 'copy@header.example', name: 'Copy, "The" <One>' },
      { way: 'bcc', address: 'blind@header.example' },
      { way: 'bcc', address: 'HAL@header.example' },
    ],
  });
  await send(pell, letter);
  await pass();
  const message = await last();
  expect(message.envelope.to).toEqual(['hal@header.example', 'copy@header.example', 'blind@header.example']);
  expect(message.raw).not.toMatch(/blind@/);
  expect(message.raw.match(/^Cc:.*$/m)?.[0]).toContain('copy@header.example');
});

it.each([
  ['subject', { subject: 'Hi\r\nBcc: evil@x.example' }],
  ['name', { recipients: [{ way: 'to', address: 'a@b.example', name: 'A\nBcc: evil@x.example' }] }],
  ['address', { recipients: [{ way: 'to', address: 'a@b.example\r\nDATA' }] }],
  ['address with brackets', { recipients: [{ way: 'to', address: 'a@b.example>,<evil@x.example' }] }],
])('nothing becomes a header of its own: %s', async (_what, patch) => {
  const letter = await begin(pell, {});
  const { status } = await pell.call('PATCH /api/letters/:id', {
    params: { id: letter.id },
    body: { version: letter.version, ...patch },
  });
  expect(status).toBe(422);
});

it('keeps of HTML what a letter holds, and nothing that acts', async () => {
  const letter = await change(pell, await begin(pell, {}), {
    html: '<p onclick="x()">Hi<script>alert(1)</script> <a href="javascript:x()">a</a> <a href="https://w.example">b</a><img src=x onerror=y><iframe src=z></iframe></p><div><b>bold</b></div>',
  });
  expect(letter.html).toBe(
    '<p>Hi <a>a</a> <a href="https://w.example">b</a></p><p><strong>bold</strong></p>',
  );
});

it('a draft is its writer’s alone, and two editors of it do not overwrite each other', async () => {
  const letter = await begin(pell, { subject: 'Mine' });
  for (const call of [
    () => ines.call('GET /api/letters/:id', { params: { id: letter.id } }),
    () => ines.call('DELETE /api/letters/:id', { params: { id: letter.id } }),
    () => ines.call('GET /api/letters/:id/preview', { params: { id: letter.id } }),
    () => send(ines, letter),
  ])
    expect((await call()).status).toBe(404);
  await change(pell, letter, { subject: 'Newer' });
  const { status, body } = await pell.call('PATCH /api/letters/:id', {
    params: { id: letter.id },
    body: { version: letter.version, subject: 'Older' },
  });
  expect([status, body.current]).toMatchObject([409, { subject: 'Newer' }]);
});

it('a discarded draft comes back with its addresses and files', async () => {
  const id = await reachable('Disca Rded', 'disca@rded.example');
  const letter = await begin(pell, { about: { personId: id }, subject: 'Gone' });
  await pell.call('POST /api/letters/:id/files', {
    params: { id: letter.id },
    raw: 'words',
    type: 'application/octet-stream',
    query: { name: 'list.txt' },
  });
  const { body } = await pell.call('DELETE /api/letters/:id', { params: { id: letter.id } });
  expect((await pell.call('GET /api/letters/:id', { params: { id: letter.id } })).status).toBe(404);
  await pell.call('POST /api/events/:id/undo', { params: { id: body.eventId ?? '' } });
  expect(await show(pell, letter.id)).toMatchObject({
    recipients: [{ address: 'disca@rded.example' }],
    files: [{ name: 'list.txt', size: 5 }],
  });
});

it('files go out with the letter and are files of the record afterwards; programs and too much are refused', async () => {
  const id = await reachable('File Fay', 'fay@file.example');
  const letter = await change(pell, await begin(pell, { about: { personId: id } }), { subject: 'Files' });
  const attach = (name: string, raw: Buffer | string) =>
    pell.call('POST /api/letters/:id/files', {
      params: { id: letter.id },
      ...{ raw, type: 'application/octet-stream', query: { name } },
    });
  const { body } = await attach('offer.txt', 'twelve bikes');
  expect((await attach('run.exe', 'MZ')).status).toBe(422);
  expect((await attach('big.bin', Buffer.alloc(15 * 1024 * 1024, 1))).body.detail).toMatch(/14 MB/);
  const other = await attach('wrong.txt', 'wrong');
  expect(
    (await pell.call('DELETE /api/letter-files/:id', { params: { id: other.body.file.id } })).status,
  ).toBe(200);
  expect((await ines.call('DELETE /api/letter-files/:id', { params: { id: body.file.id } })).status).toBe(
    404,
  );
  await send(pell, await show(pell, letter.id));
  await pass();
  expect((await last()).attachments.map(({ filename, content }) => [filename, String(content)])).toEqual([
    ['offer.txt', 'twelve bikes'],
  ]);
  await house.work();
  const files = (await ines.call('GET /api/files', { query: { personId: id } })).body.items;
  expect(files.map(({ name }) => name)).toEqual(['offer.txt']);
});

describe('an answer to a message', () => {
  it('goes to whoever wrote, in their thread, above what they wrote', async () => {
    const raw = mail({ from: 'Uma Reed <uma@reed.example>', subject: 'Eight bikes' }).replace(
      'To: pell@wharfside.example',
      'To: pell@wharfside.example, Other <other@reed.example>\r\nCc: ines@wharfside.example\r\nReferences: <before@reed.example>',
    );
    const { body } = await pell.call('POST /api/captures', { raw });
    const captureId = body.id;
    await pell.call('POST /api/captures/:id/filing', { params: { id: captureId }, body: {} });
    const reply = await begin(pell, { answers: { captureId, how: 'reply' } });
    expect(reply).toMatchObject({
      subject: 'Re: Eight bikes',
      recipients: [{ address: 'uma@reed.example' }],
    });
    expect(reply.about.person?.name).toBe('Uma Reed');
    const all = await begin(pell, { answers: { captureId, how: 'reply all' } });
    expect(all.recipients.map(({ way, address }) => [way, address])).toEqual([
      ['to', 'uma@reed.example'],
      ['cc', 'other@reed.example'],
      ['cc', 'ines@wharfside.example'],
    ]);
    const forward = await begin(pell, { answers: { captureId, how: 'forward' } });
    expect(forward).toMatchObject({ subject: 'Fwd: Eight bikes', recipients: [] });
    expect(forward.html).toContain('To: pell@wharfside.example, Other');
    await send(pell, await change(pell, reply, { html: `<p>On Thursday.</p>${reply.html}` }));
    await pass();
    const message = await last();
    const parent = /Message-ID: (<\S+>)/.exec(raw)?.[1];
    expect(message.inReplyTo).toBe(parent);
    expect(message.references).toEqual(['<before@reed.example>', parent]);
    expect(message.text).toMatch(
      /^On Thursday\.\n\nUma Reed <uma@reed\.example> wrote on [\s\S]*\n> Hello Pell,/,
    );
    const [entry] = await ledgerOf(reply.about.person?.id ?? '');
    expect(entry?.thread?.count).toBe(2);
    expect(entry?.body).toBe('On Thursday.');
  });

  it('is refused for what is no mail, and for one that is not there', async () => {
    const { body } = await pell.call('POST /api/captures', { raw: 'a note', type: 'text/plain' });
    const how = 'reply';
    expect(
      (await pell.call('POST /api/letters', { body: { answers: { captureId: body.id, how } } })).status,
    ).toBe(422);
    const nobody = '00000000-0000-4000-8000-000000000000';
    expect(
      (await pell.call('POST /api/letters', { body: { answers: { captureId: nobody, how } } })).status,
    ).toBe(404);
  });
});

it('warns where somebody withdrew their consent, and goes all the same once that is said', async () => {
  const id = await reachable('With Drawn', 'with@drawn.example');
  await house.sequelize.query(
    `INSERT INTO consents (id, person_id, purpose_id, state, at, how)
       SELECT gen_random_uuid(), c.person_id, p.id, 'withdrawn', now(), 'page' FROM contact_points c, purposes p WHERE c.normalized = 'with@drawn.example'`,
  );
  const letter = await change(pell, await begin(pell, { about: { personId: id } }), { subject: 'Hello' });
  expect(letter.warnings).toEqual(['With Drawn (with@drawn.example) withdrew consent to be mailed.']);
  const refused = await send(pell, letter);
  expect([refused.status, refused.body.reasons]).toEqual([409, letter.warnings]);
  expect((await send(pell, letter, { anyway: true })).status).toBe(200);
});

it('offers times on the clock of whoever reads it', async () => {
  const id = await reachable('New Yorker', 'new@yorker.example');
  await house.sequelize.query("UPDATE people SET time_zone = 'America/New_York' WHERE id = :id", {
    replacements: { id },
  });
  house.tools.now = () => new Date('2026-12-01T13:10:00Z');
  const letter = await begin(pell, { about: { personId: id } });
  const { body } = await pell.call('GET /api/letters/:id/times', { params: { id: letter.id } });
  house.tools.now = () => new Date();
  expect(body).toMatchObject({
    zone: 'America/New_York',
    isTheirs: true,
    items: [
      { name: 'next hour', at: '2026-12-01T09:00:00.000-05:00' },
      { name: 'morning' },
      { name: 'monday' },
    ],
  });
});
