import { createTransport } from 'nodemailer';
import { LiveFeed } from '../events/live';
import { databaseUrl, mail, openHouse, type Client, type House } from '../testing/harness';
import { openMailIntake, type MailIntake } from './mail';

let house: House;
let pell: Client;
let intake: MailIntake;
beforeAll(async () => {
  house = await openHouse();
  pell = await house.as('pell@wharfside.example');
  intake = await openMailIntake(house.tools, '127.0.0.1', 0, () => undefined);
});
afterAll(async () => {
  await intake.stop();
  await house.close();
});

const send = (raw: string | Buffer, to = 'arrivals@wharfside.example') =>
  createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail({
    envelope: { from: 'somebody@outside.example', to },
    raw,
  });
const waiting = async () => (await pell.call('GET /api/captures')).body;

it('mail by SMTP is captured whole and waits in Arrivals', async () => {
  const raw = mail({ subject: 'By post' });
  await send(raw);
  const row = (await waiting()).items.find((item) => item.subject === 'By post');
  const detail = (await pell.call('GET /api/captures/:id', { params: { id: row?.id ?? '' } })).body;
  expect(detail).toMatchObject({ cameBy: 'post', state: 'waiting', kind: 'email' });
  expect(detail.claims.find((claim) => claim.field === 'fullName')?.value).toBe('Ines Duarte');
});

it('the same mail relayed twice is one capture', async () => {
  const raw = mail({ subject: 'Twice' });
  await send(raw);
  await send(raw);
  expect((await waiting()).items.filter((item) => item.subject === 'Twice')).toHaveLength(1);
});

it('what is too large or empty is refused, and the sender keeps it', async () => {
  const before = (await waiting()).waiting;
  await expect(send(Buffer.alloc(21 * 1024 * 1024, 'a'))).rejects.toMatchObject({ responseCode: 552 });
  await expect(send('\r\n')).rejects.toMatchObject({ responseCode: 451 });
  expect((await waiting()).waiting).toBe(before);
});

it('every process on the database is told of it', async () => {
  const feeds = [new LiveFeed(databaseUrl()), new LiveFeed(databaseUrl())];
  await Promise.all(feeds.map((feed) => feed.start()));
  const told = feeds.map(
    (feed) =>
      new Promise<{ command: string; touched: { table: string }[] }>((resolve) =>
        feed.subscribe((payload) => resolve(JSON.parse(payload) as never)),
      ),
  );
  await send(mail({ subject: 'Told' }));
  for (const event of await Promise.all(told)) {
    expect(event.command).toBe('capture');
    expect(event.touched.map((one) => one.table)).toContain('captures');
  }
  await Promise.all(feeds.map((feed) => feed.stop()));
});
