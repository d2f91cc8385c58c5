import { IMAP_PASSWORD, IMAP_USER, startDovecot, type Dovecot } from '../testing/dovecot';
import { breakConnections, CUT, cuttingLine, spread, workUntil, type Breaker } from '../testing/faults';
import { openHouse, type Client, type House } from '../testing/harness';
import type { CuttingLine } from '../testing/faults';

let house: House;
let pell: Client;
let dovecot: Dovecot;
let line: CuttingLine;
let breaker: Breaker;
let id = '';
let personId = '';
beforeAll(async () => {
  house = await openHouse({ door: { allowed: ['127.0.0.1:*'] } });
  pell = await house.as('pell@wharfside.example');
  dovecot = await startDovecot();
  line = await cuttingLine(dovecot.port);
  breaker = breakConnections();
  house.expectFailure(CUT);
  house.expectFailure(/cannot be reached|Connection not available|Unexpected close|closed|Socket/i);
  const { body } = await pell.call('POST /api/people', {
    body: { fullName: 'Ines Duarte', email: 'ines@padariasol.example' },
  });
  personId = body.person.id;
  deliver(1);
  const added = await pell.call('POST /api/mailboxes', {
    body: {
      address: 'pell@wharfside.example',
      host: '127.0.0.1',
      port: line.port,
      secure: false,
      username: IMAP_USER,
      password: IMAP_PASSWORD,
    },
  });
  id = added.body.mailbox.id;
  await house.work();
});
afterAll(async () => {
  breaker.restore();
  await line.stop();
  await dovecot.stop();
  await house.close();
});

let serial = 0;
const THEM = 'Ines Duarte <ines@padariasol.example>';
const letter = (from: string): string =>
  `From: ${from}\r\nTo: Pell Garrick <pell@wharfside.example>\r\nSubject: Bikes ${++serial}\r\nDate: Mon, 23 Nov 2026 10:40:00 +0000\r\nMessage-ID: <cut-${serial}@test.example>\r\n\r\nCould you send a price for ${serial} bikes?\r\n`;
/** So many letters by somebody we know, each followed by one of somebody nobody knows. */
function deliver(letters: number): void {
  for (let at = 0; at < letters; at++) {
    dovecot.deliver(letter(THEM));
    dovecot.deliver(letter(`Gil Noot <gil${serial}@noot.example>`));
  }
}
const kept = async () => {
  const { body } = await pell.call('GET /api/ledger', { query: { personId, fold: 'no', limit: '100' } });
  const [rows] = await house.sequelize.query(
    `SELECT (SELECT count(*) FROM mailbox_messages)::int AS noted, (SELECT count(*) FROM mailbox_set_aside)::int AS aside,
            (SELECT count(*) FROM captures)::int AS captures,
            (SELECT uid_next FROM mailbox_folders WHERE path = 'INBOX')::int AS next`,
  );
  return {
    entries: body.items.length,
    ...(rows[0] as { noted: number; aside: number; captures: number; next: number }),
  };
};
/** What is kept once so many more letters came, each with one of a stranger. */
const withMore = (before: Awaited<ReturnType<typeof kept>>, letters: number) => ({
  entries: before.entries + letters,
  noted: before.noted + 2 * letters,
  aside: 0,
  captures: before.captures + letters,
  next: before.next + 2 * letters,
});
const box = async () => (await pell.call('GET /api/mailboxes')).body.items[0];
const ask = () => pell.call('POST /api/mailboxes/:id/reading', { params: { id } });
const isCurrent = async (): Promise<boolean> => (await box())?.state === 'current';

it('takes what is there when nothing goes wrong', async () => {
  expect(await kept()).toEqual({ entries: 1, noted: 2, aside: 0, captures: 1, next: 3 });
  expect(await isCurrent()).toBe(true);
});

it('keeps every message once, whichever statement finds the database gone', async () => {
  deliver(2);
  breaker.arm(Infinity);
  await ask();
  await house.work();
  const statements = breaker.counted();
  expect(statements).toBeGreaterThan(20);
  for (const at of spread(statements, 10)) {
    const before = await kept();
    deliver(2);
    await ask();
    breaker.arm(at);
    await workUntil(house, breaker, isCurrent);
    expect([at, await kept()]).toEqual([at, withMore(before, 2)]);
  }
});

it('keeps every message once, wherever the line to the mail server is cut', async () => {
  for (const bytes of [40, 300, 700, 1100, 1500, 2200, 3000]) {
    const before = await kept();
    deliver(1);
    line.cutAfter(bytes);
    await ask();
    await house.work();
    line.cutAfter(Infinity);
    await workUntil(house, breaker, isCurrent);
    expect([bytes, await kept()]).toEqual([bytes, withMore(before, 1)]);
  }
});

it('says that the mail server is away, and that it is back', async () => {
  line.cutAfter(10);
  await ask();
  await house.work();
  expect(await box()).toMatchObject({ state: 'down', trouble: expect.stringMatching(/\S/) as string });
  line.cutAfter(Infinity);
  await workUntil(house, breaker, isCurrent);
  expect(await box()).toMatchObject({ state: 'current', trouble: '' });
});
