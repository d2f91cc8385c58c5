import { createServer, type Server } from 'node:net';
import { openScanner } from '../outside/scanner';
import { filing, pdfSaying } from '../testing/filing';
import { useHouse } from '../testing/harness';
import { keepAttachmentsJob } from './mailed';
import { scanJob } from './look';

const { house, pell } = useHouse();
const { files, put, file } = filing(house);

interface Part {
  name?: string;
  type: string;
  bytes: Buffer;
  how?: string;
}
let serial = 0;
const messageWith = (parts: readonly Part[], from = 'ada@files.example'): string =>
  [
    `From: Ada Files <${from}>`,
    'To: pell@wharfside.example',
    'Subject: The plans',
    `Message-ID: <files-${++serial}@files.example>`,
    'Date: Mon, 23 Nov 2026 16:40:00 +0000',
    'MIME-Version: 1.0',
    'Content-Type: multipart/mixed; boundary=x',
    '',
    '--x',
    'Content-Type: text/plain',
    '',
    'Hello Pell, here are the plans for the eight bikes. Best wishes, Ada Files',
    ...parts.flatMap(({ name, type, bytes, how = 'attachment' }) => [
      '--x',
      `Content-Type: ${type}${name ? `; name="${name}"` : ''}`,
      `Content-Disposition: ${how}${name ? `; filename="${name}"` : ''}`,
      'Content-Transfer-Encoding: base64',
      '',
      bytes.toString('base64').replace(/.{76}/g, '$&\r\n'),
    ]),
    '--x--',
    '',
  ].join('\r\n');

async function fileMessage(parts: readonly Part[], from?: string) {
  const capture = (await pell.call('POST /api/captures', { raw: messageWith(parts, from) })).body;
  const { body } = await pell.call('POST /api/captures/:id/filing', {
    params: { id: capture.id },
    body: { person: 'new', as: 'person' },
  });
  await house.work();
  return body;
}
const PNG = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');

it('what is attached to a filed message becomes files of its sender, found by their words; parts of the message do not', async () => {
  const { person, eventId } = await fileMessage([
    { name: 'plan.pdf', type: 'application/pdf', bytes: await pdfSaying('Ramp beside the aubergine door') },
    { name: '../prices.csv', type: 'text/csv', bytes: Buffer.from('bike;4000') },
    { name: 'logo.png', type: 'image/png', bytes: PNG, how: 'inline' },
    { name: 'invite.ics', type: 'text/calendar', bytes: Buffer.from('BEGIN:VCALENDAR') },
    { name: 'tool.exe', type: 'application/octet-stream', bytes: Buffer.from('MZ') },
  ]);
  const kept = await files(pell, { personId: person.id });
  expect(kept.map(({ name, by }) => [name, by]).sort()).toEqual([
    ['plan.pdf', null],
    ['prices.csv', null],
  ]);
  expect((await files(pell, { q: 'aubergine' })).map(({ name }) => name)).toEqual(['plan.pdf']);
  const { items } = (await pell.call('GET /api/ledger', { query: { personId: person.id } })).body;
  expect(items.find(({ kind }) => kind === 'mail')?.files.map(({ name }) => name)).toEqual([
    'plan.pdf',
    'prices.csv',
  ]);
  // A reader that was ended and began again keeps nothing twice.
  const entryId = kept[0]?.entryId ?? '';
  await keepAttachmentsJob.handle(house.tools, { entryId });
  expect(await files(pell, { personId: person.id })).toHaveLength(2);
  const taken = await pell.call('POST /api/events/:id/undo', { params: { id: eventId ?? '' } });
  expect(taken.status).toBe(200);
  expect(await files(pell, { q: 'aubergine' })).toEqual([]);
  await keepAttachmentsJob.handle(house.tools, { entryId });
});

describe('with a scanner', () => {
  let daemon: Server;
  let port = 0;
  const heard: Buffer[] = [];
  /** A daemon that finds one word harmful and speaks as clamd(8) describes INSTREAM. */
  beforeAll(async () => {
    daemon = createServer((socket) => {
      let all = Buffer.alloc(0);
      socket.on('data', (data) => {
        all = Buffer.concat([all, data]);
        const start = 'zINSTREAM\0'.length;
        const pieces: Buffer[] = [];
        for (let at = start; at + 4 <= all.length;) {
          const size = all.readUInt32BE(at);
          if (!size) {
            const bytes = Buffer.concat(pieces);
            heard.push(bytes);
            if (bytes.includes('garble')) socket.end('who are you\0');
            else socket.end(bytes.includes('harmful') ? 'stream: Test.Harm FOUND\0' : 'stream: OK\0');
            return;
          }
          if (at + 4 + size > all.length) return;
          pieces.push(all.subarray(at + 4, at + 4 + size));
          at += 4 + size;
        }
      });
      socket.on('error', () => undefined);
    });
    await new Promise<void>((resolve) => daemon.listen(0, '127.0.0.1', resolve));
    const address = daemon.address();
    port = typeof address === 'object' && address ? address.port : 0;
    house.tools.outside.scanner = openScanner(`127.0.0.1:${port}`);
  });
  afterAll(() => {
    house.tools.outside.scanner = null;
    daemon.close();
  });
  const open = (id: string): Promise<{ status: number; text: string }> =>
    pell.raw('GET', `/api/files/${id}/content`);
  const person = async (fullName: string): Promise<string> =>
    (await pell.call('POST /api/people', { body: { fullName } })).body.person.id;

  it('a file is opened once it was scanned; what was found in one is said, and it stays shut', async () => {
    const personId = await person('Ada Scanned');
    const large = Buffer.alloc(2_500_000, 'a clean file ');
    const good = (await put(pell, 'good.txt', large, { personId })).body.id;
    const bad = (await put(pell, 'bad.txt', 'a harmful file', { personId })).body.id;
    expect([(await file(pell, good)).state, (await open(good)).status]).toEqual(['waiting', 409]);
    expect((await pell.call('GET /api/file-limits')).body).toMatchObject({ scans: true, waiting: 2 });
    await house.work();
    expect([(await file(pell, good)).state, (await open(good)).status]).toEqual(['clean', 200]);
    expect(heard.some((bytes) => bytes.equals(large))).toBe(true);
    expect(await file(pell, bad)).toMatchObject({ state: 'infected', finding: 'Test.Harm', text: null });
    expect((await open(bad)).text).toContain('Test.Harm');
  });

  it('a scanner that is down or talks nonsense leaves a file waiting, and it is scanned later', async () => {
    const personId = await person('Ada Waiting');
    const odd = (await put(pell, 'odd.txt', 'garble', { personId })).body.id;
    house.expectFailure(/scanner answered: who are you/);
    await house.work();
    expect((await file(pell, odd)).state).toBe('waiting');
    const scanner = house.tools.outside.scanner;
    house.tools.outside.scanner = openScanner('127.0.0.1:9');
    const { sha256 } = (await house.sequelize
      .query("SELECT sha256 FROM file_contents WHERE state = 'waiting'")
      .then(([rows]) => rows[0])) as { sha256: string };
    await expect(scanJob.handle(house.tools, { sha256 })).rejects.toThrow(/ECONNREFUSED/);
    expect((await file(pell, odd)).state).toBe('waiting');
    house.tools.outside.scanner = { scan: async () => null };
    await scanJob.handle(house.tools, { sha256 });
    expect((await file(pell, odd)).state).toBe('clean');
    house.tools.outside.scanner = scanner;
  });
});
