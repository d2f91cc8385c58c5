import { strToU8, zipSync } from 'fflate';

/** A file that was made to hold a reader up, or to bring it down. */
export interface Hostile {
  name: string;
  /** The media type it is sent as; tables go to the import, everything else to Arrivals. */
  type: string;
  make: () => Buffer;
  /** Only large: it has to be taken. */
  isGood?: true;
}

export const MAIL = 'message/rfc822';
export const PAGE = 'text/html';
export const CARD = 'text/vcard';
export const TABLE = 'text/csv';
const BOOK = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

export const text = (...parts: string[]): Buffer => Buffer.from(parts.join(''));
const many = (count: number, of: (at: number) => string): string =>
  Array.from({ length: count }, (_, at) => of(at)).join('');
export const HEAD =
  'From: a@b.example\r\nTo: c@d.example\r\nSubject: x\r\nDate: Mon, 23 Nov 2026 16:40:00 +0000\r\nMessage-ID: <1@x>\r\n';
const card = (lines: string): string => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Ann Bee\r\n${lines}END:VCARD\r\n`;

/** A workbook whose one sheet holds what is given. */
export function workbook(sheet: string, names: readonly string[] = ['Sheet1']): Buffer {
  const rels = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
  const of = (name: string, at: number): string =>
    `<sheet name="${name}" sheetId="${at + 1}" r:id="rId${at + 1}"/>`;
  const relation = (_: string, at: number): string =>
    `<Relationship Id="rId${at + 1}" Type="${rels}/worksheet" Target="worksheets/sheet${at + 1}.xml"/>`;
  return Buffer.from(
    zipSync({
      'xl/workbook.xml': strToU8(
        `<workbook xmlns="${main}" xmlns:r="${rels}"><sheets>${names.map(of).join('')}</sheets></workbook>`,
      ),
      'xl/_rels/workbook.xml.rels': strToU8(
        `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map(relation).join('')}</Relationships>`,
      ),
      ...Object.fromEntries(
        names.map((name, at) => [
          `xl/worksheets/sheet${at + 1}.xml`,
          strToU8(
            `<worksheet xmlns="${main}"><sheetData>${sheet.replaceAll('SHEET', name)}</sheetData></worksheet>`,
          ),
        ]),
      ),
    }),
  );
}

/** The sizes that a zip says of its parts, changed: readers that make room by them run out of it. */
function forged(book: Buffer): Buffer {
  const view = new DataView(book.buffer, book.byteOffset, book.byteLength);
  for (let at = 0; at + 46 < book.length; at++)
    if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, 0x7fffffff, true);
  return book;
}

/** What once stopped the program, and what is like it. */
export const KNOWN: readonly Hostile[] = [
  {
    name: 'a cell at XFD1048576',
    type: BOOK,
    make: () => workbook('<row r="1048576"><c r="XFD1048576"><v>1</v></c></row>'),
  },
  {
    name: 'a workbook with forged sizes',
    type: BOOK,
    make: () =>
      forged(workbook(many(20_000, (at) => `<row r="${at + 1}"><c r="A${at + 1}"><v>1</v></c></row>`))),
  },
  {
    name: 'a workbook that unpacks a thousandfold',
    type: BOOK,
    make: () => workbook(`<row r="1"><c r="A1"><v>${'1'.repeat(120_000_000)}</v></c></row>`),
  },
  {
    name: 'a cell with two hundred thousand attributes',
    type: BOOK,
    make: () => workbook(`<c ${'a="" '.repeat(200_000)}/>`),
  },
  {
    name: 'a page of 300,000 nested elements',
    type: PAGE,
    make: () => text('<html>', '<b>'.repeat(300_000)),
  },
  { name: 'nested blocks', type: PAGE, make: () => text('<html>', '<div><p>a '.repeat(200_000)) },
  { name: 'fifteen million angle brackets', type: PAGE, make: () => text('<html>', '<'.repeat(15_000_000)) },
  {
    name: 'deep JSON in a page',
    type: PAGE,
    make: () => text('<html><script type="application/ld+json">', '['.repeat(2_000_000), '</script>'),
  },
  {
    name: 'nested cards in a page',
    type: PAGE,
    make: () => text('<html>', '<div class="h-card"><i class="p-name">A B</i>'.repeat(50_000)),
  },
  {
    name: 'a card of 50,000 numbers',
    type: CARD,
    make: () => text(card(many(50_000, (at) => `TEL:+447700${at}\r\n`))),
  },
  {
    name: 'a card of 20,000 addresses',
    type: CARD,
    make: () => text(card(many(20_000, (at) => `EMAIL:a${at}@b.example\r\n`))),
  },
  {
    name: 'a line folded a million times',
    type: CARD,
    make: () => text(card(`NOTE:x\r\n${' y\r\n'.repeat(1_000_000)}`)),
  },
  {
    name: '60 MB of rows',
    type: TABLE,
    make: () => text('Name,Email\n', 'Ann Bee,ann@bee.example\n'.repeat(2_500_000)),
  },
  {
    name: '60 MB of wide rows, all of them good',
    type: TABLE,
    isGood: true,
    make: () => text('Name,Note\n', `Ann Bee,${'word '.repeat(240)}\n`.repeat(50_000)),
  },
  { name: '30 MB of line ends', type: TABLE, make: () => Buffer.alloc(30_000_000, '\n') },
  { name: 'a quote that is never closed', type: TABLE, make: () => text('"', 'a'.repeat(30_000_000)) },
  {
    name: 'one cell of 30 MB',
    type: TABLE,
    make: () => text('Name,Note\nAnn Bee,', 'word '.repeat(6_000_000)),
  },
  {
    name: 'To of 0.8 MB of a:',
    type: MAIL,
    make: () => text('From: a@b.example\r\nTo: ', 'a:'.repeat(400_000), '\r\n\r\nhi'),
  },
  {
    name: 'Subject of 2 MB of encoded words',
    type: MAIL,
    make: () => text('From: a@b.example\r\nSubject: ', '=?utf-8?q?a?= '.repeat(150_000), '\r\n\r\nhi'),
  },
  {
    name: 'two million header fields',
    type: MAIL,
    make: () => text(HEAD, 'X: y\r\n'.repeat(2_000_000), '\r\nhi'),
  },
  {
    name: '100,000 parts',
    type: MAIL,
    make: () =>
      text(
        HEAD,
        'Content-Type: multipart/mixed; boundary=b\r\n\r\n',
        '--b\r\nContent-Type: text/plain\r\n\r\na\r\n'.repeat(100_000),
        '--b--',
      ),
  },
  {
    name: 'parts within parts',
    type: MAIL,
    make: () =>
      text(
        'From: a@b.example\r\n',
        many(20_000, (at) => `Content-Type: multipart/mixed; boundary=b${at}\r\n\r\n--b${at}\r\n`),
      ),
  },
  {
    name: 'messages within messages',
    type: MAIL,
    make: () =>
      text(
        'From: a@b.example\r\n',
        'Content-Type: message/rfc822\r\n\r\n'.repeat(5000),
        'Subject: x\r\n\r\nhi',
      ),
  },
  {
    name: 'a parameter in 100,000 pieces',
    type: MAIL,
    make: () =>
      text(
        HEAD,
        'Content-Type: text/plain; ',
        many(100_000, (at) => `name*${at}=a; `),
        '\r\n\r\nhi',
      ),
  },
  {
    name: 'HTML mail of nested tables',
    type: MAIL,
    make: () => text(HEAD, 'Content-Type: text/html\r\n\r\n', '<table><tr><td>a'.repeat(200_000)),
  },
];
