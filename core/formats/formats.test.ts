import spectrum from 'csv-spectrum';
import fc from 'fast-check';
import { strToU8, zipSync } from 'fflate';
import { readCardDetails } from '../reading/card/details';
import { readCardClaims } from '../reading/card/read';
import { readShape } from '../reading/table/columns';
import { readDay } from '../reading/table/days';
import { parseCsv, separatorOf, writeCsv } from './csv';
import { decodeText } from './encoding';
import { UnreadableTable } from './limits';
import { parseSheet } from './sheet';
import { parseCards, writeCard, type PersonCard } from './vcard';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const claims = (text: string): string[] =>
  parseCards(bytes(text)).cards.flatMap((card) =>
    readCardClaims(card, 'US').map(
      (claim) => `${claim.field}=${claim.normalized ?? claim.value}${claim.type ? `/${claim.type}` : ''}`,
    ),
  );

describe('vCard', () => {
  // Source: RFC 6350 §8, the author's own card (from memory, shortened).
  it('RFC 6350: the example card', () =>
    expect(
      claims(
        'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Simon Perreault\r\nN:Perreault;Simon;;;ing. jr,M.Sc.\r\nBDAY:--0203\r\nANNIVERSARY:20090808T1430-0500\r\nGENDER:M\r\nLANG;PREF=1:fr\r\nORG;TYPE=work:Viagenie\r\nADR;TYPE=work:;Suite D2-630;2875 Laurier;Quebec;QC;G1V 2M2;Canada\r\nTEL;VALUE=uri;TYPE="work,voice";PREF=1:tel:+1-418-656-9254;ext=102\r\nTEL;VALUE=uri;TYPE="work,cell,voice,video,text":tel:+1-418-262-6501\r\nEMAIL;TYPE=work:simon.perreault@viagenie.ca\r\nTZ:-0500\r\nURL;TYPE=home:http://nomis80.org\r\nEND:VCARD\r\n',
      ),
    ).toEqual([
      'fullName=Simon Perreault',
      'companyName=Viagenie',
      'birthday=--02-03',
      'address=Suite D2-630, 2875 Laurier, G1V 2M2 Quebec, QC, Canada',
      'phone=+14186569254/work',
      'phone=+14182626501/mobile',
      'email=simon.perreault@viagenie.ca',
      'url=http://nomis80.org',
    ]));
  // Source: RFC 2426 §7, the first author's card (from memory, shortened).
  it('RFC 2426: the example card', () =>
    expect(
      claims(
        'BEGIN:vCard\r\nVERSION:3.0\r\nFN:Frank Dawson\r\nORG:Lotus Development Corporation\r\nADR;TYPE=WORK,POSTAL,PARCEL:;;6544 Battleford Drive\r\n ;Raleigh;NC;27613-3502;U.S.A.\r\nTEL;TYPE=VOICE,MSG,WORK:+1-919-676-9515\r\nTEL;TYPE=FAX,WORK:+1-919-676-9564\r\nEMAIL;TYPE=INTERNET,PREF:Frank_Dawson@Lotus.com\r\nURL:http://home.earthlink.net/~fdawson\r\nEND:vCard\r\n',
      ),
    ).toEqual([
      'fullName=Frank Dawson',
      'companyName=Lotus Development Corporation',
      'address=6544 Battleford Drive, 27613-3502 Raleigh, NC, U.S.A.',
      'phone=+19196769515/work',
      'phone=+19196769564/fax',
      'email=frank_dawson@lotus.com',
      'url=http://home.earthlink.net/~fdawson',
    ]));
  // Source: vCard 2.1 specification §2.1.3 and §2.4.2: quoted-printable with soft line breaks, types without names.
  it('2.1: quoted-printable, soft breaks and bare types', () =>
    expect(
      claims(
        'BEGIN:VCARD\r\nVERSION:2.1\r\nN;CHARSET=ISO-8859-1;ENCODING=QUOTED-PRINTABLE:M=FCller;J=F6rg\r\nFN;CHARSET=ISO-8859-1;QUOTED-PRINTABLE:J=F6rg =\r\nM=FCller\r\nTEL;CELL;VOICE:+49 171 3920012\r\nNOTE;ENCODING=QUOTED-PRINTABLE:first=0D=0Asecond\r\nEND:VCARD\r\n',
      ),
    ).toEqual(['fullName=Jörg Müller', 'phone=+491713920012/mobile', 'note=first\nsecond']));
  it('one bad line does not cost the card, nor one bad card the file', () => {
    const { cards, unreadable } = parseCards(
      bytes(
        'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Good One\r\n;;;broken\r\nEMAIL:good@one.example\r\nEND:VCARD\r\nBEGIN:VCARD\r\nVERSION:3.0\r\nFN:Cut Short\r\n',
      ),
    );
    expect([cards.length, unreadable]).toEqual([1, 1]);
    expect(readCardClaims(cards[0]!).map((claim) => claim.value)).toEqual(['Good One', 'good@one.example']);
  });
  it('goes from card to person to card without loss of what we hold', () => {
    const word = fc
      .string({ minLength: 1, maxLength: 30, unit: fc.constantFrom(...'abcÄé ,;:\\n"ß漢') })
      .map((text) => `A${text.trim()}Z`);
    const person: fc.Arbitrary<PersonCard> = fc.record({
      fullName: fc.constantFrom('Ines Duarte', 'Jörg Müller', 'Sean O’Brien'),
      givenName: fc.constant('Ines'),
      familyName: fc.constant('Duarte'),
      jobTitle: fc.option(word),
      companyName: fc.option(word.map((text) => text.replace(/;/g, ''))),
      prefix: fc.constantFrom('', 'Dr.', 'Prof. Dr.'),
      department: fc.oneof(
        fc.constant(''),
        word.map((text) =>
          text
            .replace(/[;,\\]/g, '')
            .replace(/\s+/g, ' ')
            .trim(),
        ),
      ),
      address: fc.constantFrom(null, '1 Quay, 4050-123 Porto, Portugal'),
      addressParts: fc.constant(['', '', '1 Quay', 'Porto', '', '4050-123', 'Portugal']),
      addressType: fc.constantFrom(null, 'work', 'home'),
      tags: fc.subarray(['fair', 'key account']),
      birthday: fc.option(fc.constantFrom('1985-04-12', '--04-12')),
      timeZone: fc.option(fc.constant('Europe/Lisbon')),
      emails: fc.subarray([
        { value: 'ines@padariasol.example', type: 'work' },
        { value: 'i.duarte@mail.example', type: 'home' },
      ]),
      phones: fc.subarray([
        { value: '+351910555014', type: 'mobile' },
        { value: '+442079460100', type: 'work' },
        { value: '+442079460101', type: 'fax' },
      ]),
      urls: fc.subarray(['https://padariasol.example']),
      profiles: fc.subarray(['https://rollcall.example/people/ines']),
      note: fc.option(word.map((text) => `${text}\nsecond line`)),
    });
    fc.assert(
      fc.property(person, (given) => {
        const { cards } = parseCards(bytes(writeCard(given)));
        const read = readCardClaims(cards[0]!);
        const of = (field: string): string[] =>
          read.filter((one) => one.field === field).map((one) => one.normalized ?? one.value);
        const tidy = (text: string | null): string[] =>
          text === null ? [] : [text.replace(/\s+/g, ' ').trim()];
        expect(of('fullName')).toEqual([given.fullName]);
        expect(of('jobTitle')).toEqual(tidy(given.jobTitle));
        expect(of('companyName')).toEqual(given.companyName === null ? [] : [given.companyName.trim()]);
        expect(of('email')).toEqual(given.emails.map((email) => email.value));
        expect(of('address')).toEqual(given.address === null ? [] : [given.address]);
        expect(readCardDetails(cards[0]!)).toMatchObject({
          prefix: given.prefix,
          department: given.department,
          tags: given.tags,
          emailTypes: Object.fromEntries(given.emails.map((email) => [email.value, email.type])),
          ...(given.address === null
            ? {}
            : { addressType: given.addressType, addressParts: given.addressParts }),
        });
        expect(
          read
            .filter((one) => one.field === 'phone')
            .map((one) => ({ value: one.normalized, type: one.type })),
        ).toEqual(given.phones);
        expect(of('url')).toEqual(given.urls);
        expect(of('profile')).toEqual(given.profiles);
        expect(of('birthday')).toEqual(given.birthday === null ? [] : [given.birthday]);
        expect(of('timeZone')).toEqual(given.timeZone === null ? [] : [given.timeZone]);
        expect(of('note')).toEqual(given.note === null ? [] : [given.note]);
      }),
      { numRuns: 150 },
    );
  });
});

describe('CSV', () => {
  // Source: csv-spectrum, the known-good corpus of CSV files.
  it('reads every file of csv-spectrum as its JSON says', async () => {
    const files = await new Promise<{ name: string; csv: Uint8Array; json: Uint8Array }[]>((done, fail) =>
      spectrum((error: Error | null, data: { name: string; csv: Uint8Array; json: Uint8Array }[]) =>
        error ? fail(error) : done(data),
      ),
    );
    expect(files.length).toBeGreaterThan(8);
    for (const { name, csv, json } of files) {
      const { rows } = parseCsv(decodeText(csv).text, ',');
      const [head = [], ...body] = rows.filter((row) => row.some((cell) => cell !== '') || row.length > 1);
      const read = body.map((row) => Object.fromEntries(head.map((key, at) => [key, row[at] ?? ''])));
      // The corpus gives other numbers in the JSON of one file than in its CSV; what stands in the CSV is what counts.
      if (name === 'location_coordinates') expect(read[0]?.['Contact Phone Number']).toBe('2095257564');
      else expect([name, read]).toEqual([name, JSON.parse(new TextDecoder().decode(json))]);
    }
  });
  // Source: RFC 4180 §2, rules 1 to 7.
  it.each([
    [
      'aaa,bbb,ccc\r\nzzz,yyy,xxx\r\n',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      'aaa,bbb,ccc\r\nzzz,yyy,xxx',
      [
        ['aaa', 'bbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    [
      '"aaa","b\r\nbb","ccc"\r\nzzz,yyy,xxx',
      [
        ['aaa', 'b\r\nbb', 'ccc'],
        ['zzz', 'yyy', 'xxx'],
      ],
    ],
    ['"aaa","b""bb","ccc"', [['aaa', 'b"bb', 'ccc']]],
    ['aaa, b ,ccc', [['aaa', ' b ', 'ccc']]],
  ])('RFC 4180: %j', (text, rows) => expect(parseCsv(text, ',').rows).toEqual(rows));
  it.each([
    ['a;b;c\n1,5;2;3\n', ';'],
    ['a\tb\n1\t2\n', '\t'],
    ['a|b\n1|2\n', '|'],
    ['"a;b",c\n"1;2",3\n', ','],
    ['sep=;\na,b;c\n', ';'],
  ])('finds the separator of %j', (text, separator) => expect(separatorOf(text)).toBe(separator));
  it.each(['=1+1', '+cmd|calc', '-2+3', '@SUM(A1)', '\tx', '=HYPERLINK("http://x","y")'])(
    'makes the formula %j harmless',
    (cell) => expect(parseCsv(writeCsv([[cell]]), ',').rows[0]?.[0]).toBe(`'${cell}`),
  );
  it('leaves numbers as they are', () =>
    expect(writeCsv([['+351910555014', '-5', 'a,b']])).toBe('+351910555014,-5,"a,b"\r\n'));
  it.each([
    ['utf-8', Buffer.from('Jörg;Café'), 'Jörg;Café'],
    ['utf-8', Buffer.from('\ufeffJörg'), 'Jörg'],
    ['windows-1252', Buffer.from('J\xf6rg;Caf\xe9 \x80', 'latin1'), 'Jörg;Café €'],
    ['utf-16le', Buffer.from('\ufeffJörg', 'utf16le'), 'Jörg'],
    ['utf-16le', Buffer.from('Name;Firma', 'utf16le'), 'Name;Firma'],
  ])('knows %s', (encoding, raw, text) => expect(decodeText(raw)).toEqual({ encoding, text }));
});

describe('columns', () => {
  it('are told by what is in them where no heading says it', () => {
    const { hasHead, columns } = readShape([
      ['Ana Reis', 'ana@reis.example', '+351 910 555 777', 'Buyer', 'Forno Reis Lda'],
      ['Rui Gomes', 'rui@gomes.example', '+351 910 555 778', 'Owner', 'Gomes GmbH'],
    ]);
    expect([hasHead, columns.map((column) => column.field)]).toEqual([
      false,
      ['fullName', 'email', 'phone', 'jobTitle', 'companyName'],
    ]);
  });
  it('whose heading does not fit what is below it are told by that', () => {
    const { columns } = readShape([
      ['Contact', 'Name'],
      ['ana@reis.example', 'Ana Reis'],
      ['rui@gomes.example', 'Rui Gomes'],
    ]);
    expect(columns.map((column) => column.field)).toEqual(['email', 'fullName']);
  });
  it('know the habits of dates', () => {
    expect(readShape([['Born'], ['12/31/1985'], ['01/02/1990']]).dates).toBe('month first');
    expect(readShape([['Born'], ['31.12.1985'], ['01.02.1990']]).dates).toBe('day first');
    expect([
      readDay('01/02/1990', 'month first'),
      readDay('01/02/1990', 'day first'),
      readDay('1990-02-01', null),
      readDay('3 Mar 1980', null),
      readDay('31/31/1990', null),
    ]).toEqual(['1990-01-02', '1990-02-01', '1990-02-01', '1980-03-03', null]);
  });
});

/** A zip whose central directory says what we want it to say. */
function zip(name: string, packed: number, size: number, count = 1): Uint8Array {
  const entry = Buffer.alloc(46 + name.length);
  entry.writeUInt32LE(0x02014b50, 0);
  entry.writeUInt32LE(packed, 20);
  entry.writeUInt32LE(size, 24);
  entry.writeUInt16LE(name.length, 28);
  entry.write(name, 46);
  const directory = Buffer.concat(Array.from({ length: count }, () => entry));
  const local = Buffer.from('PK\u0003\u0004', 'latin1');
  const end = Buffer.alloc(22);
  end.writeUInt32LE(0x06054b50, 0);
  end.writeUInt16LE(count, 10);
  end.writeUInt32LE(local.length, 16);
  return Buffer.concat([local, directory, end]);
}

/** A small workbook whose sheet holds what we want it to hold. */
const workbook = (sheet: string): Uint8Array =>
  zipSync({
    '[Content_Types].xml': strToU8(
      '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="xml" ContentType="application/xml"/></Types>',
    ),
    'xl/workbook.xml': strToU8(
      '<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships"><sheets><sheet name="S" sheetId="1" r:id="rId1"/></sheets></workbook>',
    ),
    'xl/_rels/workbook.xml.rels': strToU8(
      '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    'xl/worksheets/sheet1.xml': strToU8(sheet),
  });

it('an XML bomb in a workbook expands to nothing', async () => {
  const entities = Array.from(
    { length: 12 },
    (_, at) => `<!ENTITY e${at + 1} "${`&e${at};`.repeat(10)}">`,
  ).join('');
  const raw = workbook(
    `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY e0 "ha">${entities}<!ENTITY file SYSTEM "file:///etc/passwd">]><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData><row r="1"><c r="A1" t="inlineStr"><is><t>&e12;&file;</t></is></c></row></sheetData></worksheet>`,
  );
  const cells = await parseSheet(raw).then(
    (rows) => JSON.stringify(rows),
    () => 'refused',
  );
  expect(cells.length).toBeLessThan(200);
  expect(cells).not.toContain('root:');
});

describe('workbooks that want to do harm', () => {
  it.each([
    ['a sheet that unpacks a thousandfold', zip('xl/worksheets/sheet1.xml', 100_000, 100_000_000)],
    ['more than would fit', zip('xl/a.xml', 200_000_000, 400_000_000)],
    ['very many parts', zip('a', 1, 1, 5000)],
    ['a path out of it', zip('../../etc/passwd', 1, 1)],
    ['no zip at all', bytes('PK but nothing more')],
    ['a directory that is cut off', zip('x', 1, 1).slice(0, 40)],
  ])('%s is refused before it is opened', (_, raw) =>
    expect(parseSheet(raw)).rejects.toThrow(UnreadableTable),
  );
});
