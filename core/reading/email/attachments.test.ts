import { attachmentsOf } from './attachments';
import { readEmail } from './read';

const message = (...parts: string[]): Uint8Array =>
  new TextEncoder().encode(
    [
      'From: ines@sol.example',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary="b"',
      '',
      '--b',
      'Content-Type: text/plain; charset=utf-8',
      '',
      'See the files.',
      ...parts.flatMap((part) => ['--b', part]),
      '--b--',
      '',
    ].join('\r\n'),
  );
const file = (name: string, base64: string, type = 'application/pdf'): string =>
  `Content-Type: ${type}; name="${name}"\r\nContent-Disposition: attachment; filename="${name}"\r\nContent-Transfer-Encoding: base64\r\n\r\n${base64}`;

it('come whole, in the order in which the message lists them', async () => {
  const raw = message(
    file('plan.pdf', 'JVBERi0xLjc='),
    file('=?utf-8?Q?Pre=C3=A7os.csv?=', 'YSxi', 'text/csv'),
  );
  const found = await attachmentsOf(raw);
  expect(found.map(({ name, mediaType }) => [name, mediaType])).toEqual([
    ['plan.pdf', 'application/pdf'],
    ['Preços.csv', 'text/csv'],
  ]);
  expect(new TextDecoder().decode(found[0]?.content)).toBe('%PDF-1.7');
  const { message: view } = await readEmail(raw, {});
  expect(view.attachments.map((attachment) => attachment.name)).toEqual(found.map(({ name }) => name));
});

it('one without a name has one, and a message in a message is a file', async () => {
  const inner =
    'Content-Type: message/rfc822\r\nContent-Disposition: attachment\r\n\r\nFrom: a@b.example\r\nSubject: Inner\r\n\r\nhello';
  const [first] = await attachmentsOf(message(inner));
  expect(first?.name).toBeTruthy();
  expect(new TextDecoder().decode(first?.content)).toContain('Subject: Inner');
});

it('of what is no message, or one without any, there are none', async () => {
  expect(await attachmentsOf(new Uint8Array())).toEqual([]);
  expect(await attachmentsOf(message())).toEqual([]);
  expect(await attachmentsOf(Uint8Array.from({ length: 2000 }, (_, at) => at % 256))).toEqual([]);
});

it('are at most a hundred', async () => {
  const many = Array.from({ length: 130 }, (_, at) => file(`f${at}.txt`, 'YQ==', 'text/plain'));
  expect(await attachmentsOf(message(...many))).toHaveLength(100);
});
