import fc from 'fast-check';
import { markHtml, textOfHtml } from '../html';
import { readEmail } from './read';

const SIZE = 200_000;
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const filled = (piece: string): string => piece.repeat(Math.ceil(SIZE / piece.length));
const headed = (type: string, body: string): string =>
  `From: Ines Duarte <ines@padariasol.example>\r\nDate: Mon, 23 Nov 2026 16:40:00 +0100\r\nContent-Type: ${type}\r\n\r\n${body}`;

/** Each of these once took a reader seconds or minutes; a reader that is not linear runs into the limit of the test. */
const IN_TEXT = [
  ' ',
  '\n',
  '> \n',
  '1',
  '1 ',
  '10 12 ',
  'a@',
  'a@b.',
  'From: a\n',
  'On Mon wrote\n',
  'Ab Cd\n',
  'Regards\n',
  '-- \n',
  'Tel: +44 7700 900123\n',
  '+44 7700 900123 ',
  '!',
  '€1.000 ',
  'one and two and ',
  'end of the ',
  'monday ',
  'could you ',
  'I am the ',
  '12 Main Street, ',
];
const IN_HTML = ['<div>', '<table><tr><td>', '<blockquote>a ', '<', '&amp;', '<td>a</td>'];
const IN_HEADERS = ['a ', '<', '"', '=?utf-8?B?w6k=?= ', '<a@b> '];

describe('a message made to hang a reader', () => {
  it.each(IN_TEXT)('of %j is read to its end', async (piece) =>
    expect((await readEmail(bytes(headed('text/plain', filled(piece))))).kind).toBe('email'),
  );
  it.each(IN_HTML)('of HTML %j is read to its end', async (piece) =>
    expect((await readEmail(bytes(headed('text/html', filled(piece))))).kind).toBe('email'),
  );
  it.each(IN_HEADERS)('with %j in its headers is read to its end', async (piece) => {
    for (const name of ['From', 'To', 'Subject', 'References'])
      expect(
        (await readEmail(bytes(`${name}: ${filled(piece)}\r\nDate: x\r\n\r\nhi`))).message.text,
      ).toContain('hi');
  });
  it('of many thousand parts is read to its end', async () =>
    expect(
      (
        await readEmail(
          bytes(`Subject: x\r\nContent-Type: multipart/mixed; boundary=a\r\n\r\n${filled('--a\r\n\r\n')}`),
        )
      ).kind,
    ).toBe('email'));
});

describe('marks in HTML', () => {
  const piece = fc.constantFrom(
    'Ines ',
    ' Duarte',
    '<b>',
    '</b>',
    '<p>',
    '</p>',
    '<br>',
    '&amp;',
    '&nbsp;',
    '\n',
    '  ',
    'é',
    '<td>',
    '<pre>',
    '</pre>',
    '<script>x</script>',
    'Sol',
  );
  it('hold just the words they stand for, wherever tags and entities fall', () =>
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 25 }), fc.nat(), (pieces, at) => {
        const html = pieces.join('');
        const { text } = textOfHtml(html);
        const words = [...text.matchAll(/\S+/g)];
        const word = words[at % Math.max(1, words.length)];
        if (!word) return;
        const marked = markHtml(html, [{ id: 'm', start: word.index, end: word.index + word[0].length }]);
        const inside = [...marked.matchAll(/<mark data-read="m">(.*?)<\/mark>/gs)]
          .map((one) => one[1])
          .join('');
        expect(textOfHtml(`<pre>${inside}</pre>`).text.trim()).toBe(word[0]);
        expect(textOfHtml(marked).text).toBe(text);
      }),
      { numRuns: 500 },
    ));
});
