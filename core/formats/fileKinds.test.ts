import fc from 'fast-check';
import { endingOf, fileKindOf } from './fileKinds';

const bytes = (text: string): Uint8Array => Uint8Array.from([...text].map((char) => char.charCodeAt(0)));

// Sources: the magic numbers in the registrations of the media types (RFC 3778 for PDF, RFC 2083 §12.11 for PNG), and
// APPNOTE 4.3.7 for packages; from memory.
it.each([
  ['offer.pdf', '%PDF-1.7\n', 'application/pdf', 'pdf'],
  ['photo.txt', '\x89PNG\r\n\x1a\n\0', 'image/png', 'image'],
  ['photo', '\xff\xd8\xff\xe0', 'image/jpeg', 'image'],
  ['a.webp', 'RIFF\x10\0\0\0WEBPVP8 ', 'image/webp', 'image'],
  ['sheet.xlsx', 'PK\x03\x04', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', null],
  ['sheet.png', 'PK\x03\x04', 'application/zip', null],
  ['list.CSV', 'name;city', 'text/csv', 'text'],
  ['page.html', '<html>', 'text/plain', 'text'],
  ['notes', '\xff\xfeH\0i\0', 'text/plain', 'text'],
  ['data.txt', 'words\0\x01', 'application/octet-stream', null],
  ['empty.txt', '', 'application/octet-stream', null],
])('%s that begins with %j is %s', (name, start, mediaType, preview) =>
  expect(fileKindOf(name, bytes(start))).toEqual({ mediaType, preview, isProgram: false }),
);

it.each(['MZ\x90\0', '\x7fELF', '\xcf\xfa\xed\xfe', '#!/usr/bin/env node'])(
  'what begins with %j is a program, whatever it is called',
  (start) => expect(fileKindOf('letter.pdf', bytes(start)).isProgram).toBe(true),
);

it('the ending is told whatever else the name says', () =>
  expect(['a.tar.GZ ', '.profile', 'no ending', 'odd.', 'x.Приём'].map(endingOf)).toEqual([
    'gz',
    'profile',
    '',
    '',
    'приём',
  ]));

it('nothing that is handed to a browser as a picture or PDF begins like a page', () =>
  fc.assert(
    fc.property(fc.string(), fc.uint8Array({ maxLength: 200 }), (name, rest) => {
      const page = Uint8Array.from([...bytes('<!doctype html>'), ...rest]);
      expect(['image', 'pdf']).not.toContain(fileKindOf(name, page).preview);
    }),
  ));
