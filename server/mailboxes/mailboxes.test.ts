import { openHouse, type Client, type House } from '../testing/harness';
import { delegating } from '../testing/delegating';
import { IMAP_PASSWORD, IMAP_USER, startDovecot, type Dovecot } from '../testing/dovecot';
import { freePort } from '../testing/port';
import { seal, unseal } from './seal';

let house: House;
let pell: Client;
let ines: Client;
let dovecot: Dovecot;
let id = '';
let personId = '';
beforeAll(async () => {
  house = await openHouse({ door: { allowed: ['127.0.0.1:*'] } });
  pell = await house.as('pell@wharfside.example');
  ines = await house.as('ines@wharfside.example');
  dovecot = await startDovecot();
  const { body } = await pell.call('POST /api/people', {
    body: { fullName: 'Ines Duarte', email: 'ines@padariasol.example' },
  });
  personId = body.person.id;
});
afterAll(async () => {
  await dovecot.stop();
  await house.close();
});

let serial = 0;
const letter = (
  from: string,
  to: string,
  over: { id?: string; reply?: string; subject?: string } = {},
): string =>
  `From: ${from}\r\nTo: ${to}\r\nSubject: ${over.subject ?? 'Bikes'}\r\nDate: Mon, 23 Nov 2026 1${serial % 10}:40:00 +0000\r\nMessage-ID: <${over.id ?? `box-${++serial}@test.example`}>\r\n${over.reply ? `In-Reply-To: <${over.reply}>\r\nReferences: <${over.reply}>\r\n` : ''}\r\nCould you send a price?\r\n`;
const US = 'Pell Garrick <pell@wharfside.example>';
const THEM = 'Ines Duarte <ines@padariasol.example>';
const OTHER = 'Gil Noot <gil@noot.example>';
const ledger = async (person = personId) =>
  (await pell.call('GET /api/ledger', { query: { personId: person, fold: 'no' } })).body.items;
const box = async () => (await pell.call('GET /api/mailboxes')).body.items[0]!;
const read = async () => {
  await pell.call('POST /api/mailboxes/:id/reading', { params: { id } });
  await house.work();
};
const account = (over: object = {}) => ({
  address: 'pell@wharfside.example',
  host: '127.0.0.1',
  port: dovecot.port,
  secure: false,
  username: IMAP_USER,
  password: IMAP_PASSWORD,
  ...over,
});

it('is read over IMAP: mail with people we know goes to their ledger, on the side it belongs to', async () => {
  dovecot.deliver(letter(THEM, US, { id: 'first@test.example' }));
  dovecot.deliver(letter(US, THEM, { reply: 'first@test.example' }), 'Sent');
  dovecot.deliver(letter(OTHER, US));
  const { status, body } = await pell.call('POST /api/mailboxes', { body: account() });
  expect(status).toBe(201);
  id = body.mailbox.id;
  await house.work();
  expect(await box()).toMatchObject({ state: 'current', trouble: '', messages: 3 });
  expect((await ledger()).map((one) => one.side).sort()).toEqual(['ours', 'theirs']);
  expect(JSON.stringify(await pell.call('GET /api/mailboxes'))).not.toContain(IMAP_PASSWORD);
  const [events] = await house.sequelize.query('SELECT changes::text FROM events');
  expect(JSON.stringify(events)).not.toContain('sealed');
  expect((await pell.call('GET /api/people', { query: { q: 'Noot' } })).body.items).toEqual([]);
});

it('a colleague’s reply to what was mailed about a task comes to the task, wherever it is read', async () => {
  const { task } = delegating;
  const made = await task(pell, { assigneeId: await delegating.idOf(ines) });
  house.mails.length = 0;
  await house.work();
  const mail = house.mails.find(({ to }) => to === 'ines@wharfside.example');
  const reply = `From: Ines Tolland <ines@wharfside.example>\r\nTo: hello@wharfside.example\r\nSubject: Re: a task\r\nDate: Mon, 23 Nov 2026 12:00:00 +0000\r\nMessage-ID: <reply-${++serial}@test.example>\r\nIn-Reply-To: <${mail?.id}@wharfside.example>\r\nReferences: <${mail?.id}@wharfside.example>\r\n\r\nDone, thanks!\r\n`;
  const before = await house.count('captures');
  dovecot.deliver(reply);
  dovecot.deliver(reply, 'Sent');
  await read();
  expect(await delegating.detail(pell, made.task.id)).toMatchObject({
    doneBy: 'Ines Tolland',
    messages: [],
  });
  expect(await house.count('captures')).toBe(before);
});

it('goes on where it stopped, and changes nothing in the mailbox', async () => {
  dovecot.deliver(letter(THEM, US));
  await read();
  expect(await ledger()).toHaveLength(3);
  await read();
  expect(await ledger()).toHaveLength(3);
});

it('is read anew when its numbers changed, and nothing doubles', async () => {
  const noted = async () => {
    const [rows] = await house.sequelize.query(
      "SELECT uid_validity, count(*)::int AS messages FROM mailbox_messages WHERE path = 'INBOX' GROUP BY 1 ORDER BY min(ctid::text)",
    );
    return rows as { uid_validity: string; messages: number }[];
  };
  const [before] = await noted();
  dovecot.renumber();
  await read();
  expect((await noted()).map(({ messages }) => messages)).toEqual([before?.messages, before?.messages]);
  expect(await ledger()).toHaveLength(3);
});

it('makes one entry of the same message twice, by post and at a colleague', async () => {
  const raw = letter(THEM, `${US}, Ines Tolland <ines@wharfside.example>`);
  dovecot.deliver(raw);
  dovecot.deliver(`X-Copy: 1\r\n${raw}`);
  await read();
  expect(await ledger()).toHaveLength(4);
  const posted = await pell.call('POST /api/captures', { raw });
  expect([posted.status, posted.body.state]).toEqual([200, 'filed']);
  await ines.call('POST /api/mailboxes', { body: account({ address: 'ines@wharfside.example' }) });
  await house.work();
  expect(await ledger()).toHaveLength(4);
});

it('keeps a thread together on the deal it stands with', async () => {
  const first = await pell.call('POST /api/captures', {
    raw: letter('Tea Lund <tea@lund.example>', US, { id: 'thread@test.example' }),
  });
  const filed = await pell.call('POST /api/captures/:id/filing', { params: { id: first.body.id }, body: {} });
  const leadId = filed.body.lead?.id ?? '';
  dovecot.deliver(letter('Tea Lund <tea@lund.example>', US, { reply: 'thread@test.example' }));
  await read();
  const { body } = await pell.call('GET /api/ledger', { query: { leadId, fold: 'no' } });
  expect(body.items).toHaveLength(2);
});

it('proposes people we write with often, and filing one brings their past messages along', async () => {
  dovecot.deliver(letter(OTHER, US));
  dovecot.deliver(letter(US, OTHER), 'Sent');
  await read();
  const { body } = await pell.call('GET /api/mailboxes/:id/correspondents', { params: { id } });
  expect(body.items).toMatchObject([{ address: 'gil@noot.example', name: 'Gil Noot', received: 2, sent: 1 }]);
  const filed = await pell.call('POST /api/mailboxes/:id/correspondents', {
    params: { id },
    body: { address: 'gil@noot.example', name: 'Gil Noot' },
  });
  await house.work();
  expect(await ledger(filed.body.person?.id)).toHaveLength(3);
  expect((await pell.call('GET /api/mailboxes/:id/correspondents', { params: { id } })).body.items).toEqual(
    [],
  );
});

it('shows strangers who wrote to a rep’s own mailbox to that rep, and to nobody else', async () => {
  const strangers = async (who = pell): Promise<string[]> =>
    (await who.call('GET /api/strangers')).body.items.map((item) => item.address);
  dovecot.deliver(letter('Nia Fresh <nia@fresh.example>', US));
  dovecot.deliver(letter('Shop <no-reply@shop.example>', US));
  dovecot.deliver(letter(US, 'Uma Quiet <uma@quiet.example>'), 'Sent');
  await read();
  expect(await strangers()).toContain('nia@fresh.example');
  // Nobody answers a machine, and whom we wrote to did not write to us.
  expect(await strangers()).not.toEqual(
    expect.arrayContaining([expect.stringMatching(/no-reply@shop|uma@quiet/)]),
  );
  expect(await strangers(ines)).not.toContain('nia@fresh.example');
  await pell.call('POST /api/mailboxes/:id/correspondents', {
    params: { id },
    body: { address: 'nia@fresh.example', never: true },
  });
  expect(await strangers()).not.toContain('nia@fresh.example');
  await house.sequelize.query("UPDATE mailboxes SET never = '{}' WHERE id = :id", { replacements: { id } });
  await house.sequelize.query(
    "UPDATE mailbox_messages SET at = at - interval '31 days' WHERE address = 'nia@fresh.example'",
  );
  expect(await strangers()).not.toContain('nia@fresh.example');
});

it('files nothing of addresses that are never to be filed, nor by itself when it is to ask', async () => {
  const before = (await ledger()).length;
  await pell.call('PATCH /api/mailboxes/:id', {
    params: { id },
    body: { version: (await box()).version, never: ['@padariasol.example'] },
  });
  dovecot.deliver(letter(THEM, US, { subject: 'Never this' }));
  dovecot.deliver(letter('Tea Lund <tea@lund.example>', US, { subject: 'But this' }));
  await read();
  expect(await ledger()).toHaveLength(before);
  const [kept] = await house.sequelize.query(
    "SELECT message->>'subject' AS subject FROM captures WHERE message->>'subject' IN ('Never this', 'But this')",
  );
  expect(kept).toEqual([{ subject: 'But this' }]);
  await pell.call('PATCH /api/mailboxes/:id', {
    params: { id },
    body: { version: (await box()).version, never: [], choice: 'ask' },
  });
  dovecot.deliver(letter(THEM, US, { subject: 'Ask first' }));
  await read();
  expect(await ledger()).toHaveLength(before);
  expect((await pell.call('GET /api/captures')).body.items[0]).toMatchObject({
    subject: 'Ask first',
    state: 'waiting',
  });
});

it('says when it cannot be read, and is read without being asked once its server is back', async () => {
  house.expectFailure(/cannot be reached/);
  const port = await freePort();
  const { body: added } = await pell.call('POST /api/mailboxes', {
    body: account({ address: 'down@wharfside.example', port }),
  });
  await house.work();
  const mailbox = async () =>
    (await pell.call('GET /api/mailboxes')).body.items.find((item) => item.id === added.mailbox.id);
  expect(await mailbox()).toMatchObject({
    state: 'down',
    trouble: `127.0.0.1:${port} cannot be reached. It is tried again in two minutes.`,
  });
  const back = await startDovecot(port);
  await house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
  await house.work();
  expect(await mailbox()).toMatchObject({ state: 'current', trouble: '' });
  await back.stop();
  const other = await ines.call('GET /api/mailboxes/:id/correspondents', { params: { id } });
  expect(other.status).toBe(404);
});

it('seals passwords so that another key, or a changed letter, opens none', () => {
  const sealed = seal('secret words', 'key');
  expect(unseal(sealed, 'key')).toBe('secret words');
  expect(sealed).not.toContain('secret');
  expect(() => unseal(sealed, 'other')).toThrow();
  expect(() => unseal(`${sealed.slice(0, -4)}AAAA`, 'key')).toThrow();
});

it('a message that cannot be filed waits in Arrivals with its reason, and the mailbox goes on', async () => {
  house.expectFailure(/cannot be reached/);
  // Whatever the reason: here the database refuses its entry.
  await house.sequelize.query(`
    CREATE FUNCTION refuse_one() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN
      IF NEW.headline = 'Cannot be filed' THEN RAISE check_violation; END IF; RETURN NEW; END $$;
    CREATE TRIGGER refuse_one BEFORE INSERT ON ledger_entries FOR EACH ROW EXECUTE FUNCTION refuse_one();`);
  const before = (await ledger()).length;
  const { version } = (await pell.call('GET /api/mailboxes')).body.items.find((item) => item.id === id)!;
  await pell.call('PATCH /api/mailboxes/:id', { params: { id }, body: { version, choice: 'all' } });
  dovecot.deliver(letter(THEM, US, { subject: 'Cannot be filed' }));
  dovecot.deliver(letter(THEM, US, { subject: 'Can be filed' }));
  await read();
  const now = (await pell.call('GET /api/mailboxes')).body.items.find((item) => item.id === id);
  expect(now).toMatchObject({ state: 'current', trouble: '' });
  expect(now?.setAside).toMatchObject([
    { sender: 'ines@padariasol.example', reason: 'It could not be kept as it is.' },
  ]);
  expect(await ledger()).toHaveLength(before + 1);
  const { body } = await pell.call('GET /api/captures');
  const waiting = body.items.find((item) => item.subject === 'Cannot be filed');
  const { body: capture } = await pell.call('GET /api/captures/:id', { params: { id: waiting?.id ?? '' } });
  expect(JSON.stringify(capture)).toContain('Not filed automatically');
});

it('a wrong password says so, is not tried again and again, and is mended in place', async () => {
  house.expectFailure(/cannot be reached/);
  const { body } = await ines.call('POST /api/mailboxes', {
    body: account({ address: 'tolland@wharfside.example', password: 'wrong' }),
  });
  await house.work();
  const mine = async () =>
    (await ines.call('GET /api/mailboxes')).body.items.find((item) => item.id === body.mailbox.id);
  expect(await mine()).toMatchObject({
    state: 'refused',
    trouble: expect.stringContaining('refuses this name and password'),
  });
  const params = { id: body.mailbox.id };
  const version = (await mine())?.version;
  await ines.call('PATCH /api/mailboxes/:id', { params, body: { version, password: IMAP_PASSWORD } });
  await house.work();
  expect(await mine()).toMatchObject({ state: 'current', trouble: '' });
  // A removed mailbox cannot come back, because its password was not kept; that is said, and is no fault of ours.
  await ines.call('DELETE /api/mailboxes/:id', { params });
  const [events] = await house.sequelize.query(
    "SELECT id FROM events WHERE command = 'remove mailbox' ORDER BY seq DESC LIMIT 1",
  );
  const undone = await ines.call('POST /api/events/:id/undo', {
    params: { id: (events[0] as { id: string }).id },
  });
  expect([undone.status, undone.body.type]).toEqual([409, 'urn:emporikon:problem:cannot-undo']);
});
