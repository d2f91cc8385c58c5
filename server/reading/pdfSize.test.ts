import { deflateSync } from 'node:zlib';
import { pdfSaying } from '../testing/filing';
import { isReadablePdf } from './pdfSize';

const MEGABYTE = 1024 * 1024;
const spaces = (megabytes: number): Buffer => Buffer.alloc(megabytes * MEGABYTE, 0x20);

/** A PDF of one page whose content is this stream. */
function pdfOf(
  stream: Buffer,
  { filter = '/FlateDecode', length = stream.length, keyword = 'stream\n' } = {},
): Buffer {
  const parts: Buffer[] = [];
  const offsets: number[] = [];
  let size = 0;
  const write = (text: string | Buffer): void => {
    const bytes = Buffer.isBuffer(text) ? text : Buffer.from(text, 'latin1');
    parts.push(bytes);
    size += bytes.length;
  };
  const object = (dictionary: string, content?: Buffer): void => {
    offsets.push(size);
    write(`${offsets.length} 0 obj\n${dictionary}\n`);
    if (content) {
      write(keyword);
      write(content);
      write('\nendstream\n');
    }
    write('endobj\n');
  };
  write('%PDF-1.4\n');
  object('<</Type/Catalog/Pages 2 0 R>>');
  object('<</Type/Pages/Kids[3 0 R]/Count 1>>');
  object('<</Type/Page/Parent 2 0 R/MediaBox[0 0 9 9]/Contents 4 0 R>>');
  object(`<</Length ${length}/Filter ${filter}>>`, stream);
  const start = size;
  const rows = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  write(`xref\n0 5\n0000000000 65535 f \n${rows}trailer<</Size 5/Root 1 0 R>>\nstartxref\n${start}\n%%EOF`);
  return Buffer.concat(parts);
}

it('a PDF of words is read', async () => {
  expect(isReadablePdf(await pdfSaying('Ramp beside the door', 'Second page'))).toBe(true);
});

it.each([
  ['grows to 100 MB', pdfOf(deflateSync(spaces(100)))],
  [
    'grows in two steps',
    pdfOf(deflateSync(deflateSync(spaces(100))), { filter: '[/FlateDecode /FlateDecode]' }),
  ],
  ['says it is short', pdfOf(deflateSync(spaces(100)), { length: 10 })],
  ['hides where its stream begins', pdfOf(deflateSync(spaces(100)), { keyword: 'stream  %\r\n' })],
  ['grows and then breaks off', pdfOf(deflateSync(spaces(100)).subarray(0, -6))],
  ['packs with what is not measured', pdfOf(Buffer.from('x'), { filter: '/LZWDecode' })],
  [
    'packs with what is not measured first',
    pdfOf(Buffer.from('x'), { filter: '[/ASCII85Decode /FlateDecode]' }),
  ],
  ['names its filter elsewhere', pdfOf(Buffer.from('x'), { filter: '5 0 R' })],
  ['writes the name in another way', pdfOf(Buffer.from('x'), { filter: '/FlateDecode/F#69lter/LZWDecode' })],
  ['is encrypted', pdfOf(Buffer.from('x'), { filter: '/FlateDecode>>\n<</Encrypt 5 0 R' })],
])('one that %s is not', (_, pdf) => {
  expect(pdf.length).toBeLessThan(MEGABYTE);
  expect(isReadablePdf(pdf)).toBe(false);
});

it('small streams that come to too much together are too much', () => {
  const stream = deflateSync(spaces(10));
  const page = pdfOf(stream);
  const many = Buffer.concat([
    page,
    ...Array.from({ length: 7 }, () => page.subarray(page.indexOf('4 0 obj'))),
  ]);
  expect([isReadablePdf(page), isReadablePdf(many)]).toEqual([true, false]);
});
