import { seededRandom } from './fuzz';
import { CARD, HEAD, MAIL, PAGE, TABLE, text, type Hostile } from './hostile';

/** What a reader of each kind pays for, to be put together at random. */
const PIECES: Record<string, { begin: string[]; piece: string[]; end: string[] }> = {
  [MAIL]: {
    begin: [
      `${HEAD}\r\n`,
      'From: ',
      `${HEAD}Cc: `,
      `${HEAD}References: `,
      `${HEAD}Content-Type: text/html\r\n\r\n`,
      `${HEAD}Content-Type: multipart/alternative; boundary="`,
      `${HEAD}Content-Transfer-Encoding: quoted-printable\r\n\r\n`,
    ],
    piece: [
      '<',
      '"',
      '(',
      '\\',
      ',',
      ';',
      ':',
      '@',
      'a@b.example, ',
      '=?utf-8?b?YQ==?=',
      '=?x?q?',
      '\r\n ',
      '\r\n--',
      '\r\n\r\n',
      '> ',
      '-- \r\n',
      '<a@b>',
      '&#65;',
      '<blockquote>',
      'On Mon, Ann wrote:\r\n> ',
      '+44 7700 900123 ',
      '12/1 ',
      '40k ',
      '=3D',
      '=',
    ],
    end: ['\r\n\r\nhi', ''],
  },
  [PAGE]: {
    begin: [
      '<html><body>',
      '<!doctype html><html><head>',
      '<html><table>',
      '<html><script type="application/ld+json">',
    ],
    piece: [
      '<a href="',
      '<div class="h-card">',
      '<span itemprop="name">',
      '<p>',
      '</p>',
      '</b>',
      '<b ',
      '"',
      "'",
      '&',
      '&amp',
      '<!--',
      '-->',
      '<![CDATA[',
      '{"@type":"Person","name":"',
      '[',
      '}',
      '<li>',
      '<td>',
      'mailto:a@b.example ',
      '\u00a0',
      '<meta property="og:title" content="',
      '<svg>',
      '<template>',
    ],
    end: ['', '</script>', '">'],
  },
  [CARD]: {
    begin: ['BEGIN:VCARD\r\nVERSION:3.0\r\nFN:A B\r\n', 'BEGIN:VCARD\r\nVERSION:2.1\r\nN:B;A\r\n'],
    piece: [
      'TEL;TYPE=',
      'EMAIL:',
      '\r\n',
      '\r\n ',
      ';',
      ':',
      '"',
      ',',
      '\\',
      'NOTE;ENCODING=QUOTED-PRINTABLE:=',
      'item1.',
      'ADR:;;',
      'BEGIN:VCARD\r\n',
      'END:VCARD\r\n',
      'a',
    ],
    end: ['\r\nEND:VCARD\r\n', ''],
  },
  [TABLE]: {
    begin: ['Name,Email\n', '', '"', 'sep=;\n'],
    piece: [
      ',',
      ';',
      '\t',
      '"',
      '\n',
      '\r',
      '"\n"',
      'a',
      '"",',
      'Ann Bee,',
      'ann@bee.example',
      '\u0000',
      '1/2/03,',
      '|',
    ],
    end: ['', '\n', '"'],
  },
};
const MOST_BYTES = 3_000_000;

/** A small search over shapes: one to three pieces in a row, again and again. The same ones for the same seed. */
export function searched(count: number, seed: number): Hostile[] {
  const random = seededRandom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  return Array.from({ length: count }, () => {
    const type = pick(Object.keys(PIECES));
    const { begin, piece, end } = PIECES[type] ?? { begin: [''], piece: ['a'], end: [''] };
    const unit = Array.from({ length: 1 + Math.floor(random() * 3) }, () => pick(piece)).join('');
    const [first, last] = [pick(begin), pick(end)];
    const times = Math.floor((MOST_BYTES * (0.3 + 0.7 * random())) / Buffer.byteLength(unit));
    return {
      name: `${JSON.stringify(first.slice(-30))} then ${times} × ${JSON.stringify(unit)} then ${JSON.stringify(last)}`,
      type,
      make: () => text(first, unit.repeat(times), last),
    };
  });
}
