import { attachmentsOf } from './attachments';
import { countSeparateLines } from './lines';
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

describe('the lines that the parser holds one by one', () => {
  const encoded = (encoding: string, line: string, count: number): string =>
    `Content-Type: text/csv\r\nContent-Disposition: attachment\r\nContent-Transfer-Encoding: ${encoding}\r\n\r\n${`${line}\r\n`.repeat(count)}`;
  const plain = countSeparateLines(message());

  it.each([
    ['base64', 'QUJD', 0],
    ['BASE64', 'QUJD', 0],
    ['quoted-printable', 'a=20b', 0],
    ['7bit', 'a,b', 500],
    ['8bit', 'a,b', 500],
    // What only looks like a header stands in the text.
    ['7bit', 'Content-Transfer-Encoding: base64', 500],
    ['7bit', '--', 500],
  ])('of a part in %s with lines %s: %d of 500', (encoding, line, expected) => {
    const few = countSeparateLines(message(encoded(encoding, line, 0)));
    expect(few - plain).toBeLessThan(8);
    expect(countSeparateLines(message(encoded(encoding, line, 500))) - few).toBe(expected);
  });

  it('a message without a last line end, or without any, is counted to its end', () => {
    expect(countSeparateLines(new TextEncoder().encode('Subject: a\n\nb\nc'))).toBe(4);
    expect(countSeparateLines(new Uint8Array())).toBe(0);
    expect(countSeparateLines(new TextEncoder().encode('hello'))).toBe(1);
  });
});
