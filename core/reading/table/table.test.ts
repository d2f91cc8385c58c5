import { readDay } from './days';
import { fieldOfLabel } from './labels';
import { readShape } from './columns';
import { readTable, shapeKey } from './read';
import { guessRecordFields, readRecordRow, type RecordField } from './records';
import { readRow, rowKey } from './rows';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('a day in a table', () => {
  it.each([
    ['2026-11-27', null, '2026-11-27'],
    ['2026/1/5', null, '2026-01-05'],
    ['2026-11-27T09:30:00Z', null, '2026-11-27'],
    ['27.11.2026', null, '2026-11-27'],
    ['3/4/2026', 'day first', '2026-04-03'],
    ['3/4/2026', 'month first', '2026-03-04'],
    ['11/27/2026', 'day first', '2026-11-27'],
    ['27/11/2026', 'month first', '2026-11-27'],
    ['1-2-26', 'day first', '2026-02-01'],
    ['1-2-69', 'day first', '1969-02-01'],
    ['5 Mar 2026', null, '2026-03-05'],
    ['5. March-2026', null, '2026-03-05'],
    ['29.02.2028', null, '2028-02-29'],
  ] as const)('%s (%s) is %s', (text, habit, day) => {
    expect(readDay(text, habit)).toBe(day);
  });

  it.each([
    '30.02.2026',
    '29.02.2026',
    '31/04/2026',
    '2026-02-30',
    '31 Jun 2026',
    '00.01.2026',
    '2026-13-01',
    '31.12.9999',
    '0001-01-01',
  ])('%s is no day of the calendar', (text) => {
    expect(readDay(text, 'day first')).toBeNull();
  });

  it.each(['', 'soon', '2026', 'Q3', '12345', '5 Foo 2026', '1.2', '45987'])('%j is none', (text) => {
    expect(readDay(text, null)).toBeNull();
  });
});

describe('the shape of a table', () => {
  it('is told by headings in any of the languages we read', () => {
    const heads = [
      ['Vorname', 'Nachname', 'Firma', 'E-Mail-Adresse', 'Handynummer'],
      ['Prénom', 'Nom de famille', 'Entreprise', 'Courriel', 'Tel portable'],
      ['Voornaam', 'Achternaam', 'Bedrijf', 'Emailadres', 'Mobiel'],
      ['Nombre de pila', 'Apellidos', 'Empresa', 'Correo electrónico', 'Teléfono móvil'],
    ];
    for (const head of heads) {
      const { hasHead, columns } = readShape([
        head,
        ['Ines', 'Duarte', 'Sol', 'i@sol.example', '+351910555014'],
      ]);
      expect([head[0], hasHead, columns.slice(0, 3).map((column) => column.field)]).toEqual([
        head[0],
        true,
        ['givenName', 'familyName', 'companyName'],
      ]);
      expect([head[0], columns[4]?.field, columns[4]?.type]).toEqual([head[0], 'phone', 'mobile']);
    }
  });

  it('is told by what stands in it where it has no headings', () => {
    const { hasHead, columns } = readShape([
      ['Ines Duarte', 'ines@sol.example', '+351910555014'],
      ['Bo Lund', 'bo@lund.example', '+46701740601'],
    ]);
    expect([hasHead, columns.map(({ field, by }) => [field, by])]).toEqual([
      false,
      [
        ['fullName', 'content'],
        ['email', 'content'],
        ['phone', 'content'],
      ],
    ]);
  });

  it('is found again by its headings, whatever their case', async () => {
    const [one, two, other] = await Promise.all(
      ['Name,Email\nA B,a@b.example', 'NAME , email\nC D,c@d.example', 'Email,Name\na@b.example,A B'].map(
        (csv) => readTable(bytes(csv)),
      ),
    );
    expect(shapeKey(one!.shape)).toBe(shapeKey(two!.shape));
    expect(shapeKey(one!.shape)).not.toBe(shapeKey(other!.shape));
  });

  it('a heading says the field and the kind of number', () => {
    expect(fieldOfLabel('Handynummer')).toEqual({ field: 'phone', type: 'mobile' });
    expect(fieldOfLabel('Telefax')).toEqual({ field: 'phone', type: 'fax' });
    expect(fieldOfLabel('Zodiac')).toBeNull();
  });
});

describe('a row of people', () => {
  const head = ['Given name', 'Family name', 'Company', 'Email', 'Phone', 'Birthday', 'Tags'];
  const sample = ['Ada', 'Lund', 'Lund AB', 'ada@lund.example', '+46701740601', '5.3.1980', 'fair'];
  const shape = readShape([head, sample, sample]);
  const read = (...row: string[]) => readRow(row, shape, 'GB', 3);
  const of = (reading: ReturnType<typeof read>, field: string): string[] =>
    reading.claims.filter((claim) => claim.field === field).map((claim) => claim.normalized ?? claim.value);

  it('becomes claims that say their column and their row', () => {
    const reading = read(
      'Ines',
      'Duarte',
      'Padaria Sol',
      'Ines@Sol.example',
      '020 7946 0018',
      '5.3.1980',
      'fair; vip',
    );
    expect(of(reading, 'fullName')).toEqual(['Ines Duarte']);
    expect(of(reading, 'phone')).toEqual(['+442079460018']);
    expect(of(reading, 'birthday')).toEqual(['1980-03-05']);
    expect(reading.tags).toEqual(['fair', 'vip']);
    expect(reading.problems).toEqual([]);
    expect(reading.claims.every((claim) => claim.record === 3)).toBe(true);
    expect(reading.claims.find((claim) => claim.field === 'email')?.source).toBe('column “Email”');
  });

  it('takes several addresses and numbers out of one cell, each once', () => {
    const reading = read(
      'Bo',
      'Lund',
      '',
      'bo@lund.example; info@lund.example, BO@lund.example',
      '+46701740601 / +46701740602',
      '',
      '',
    );
    expect(of(reading, 'email')).toEqual(['bo@lund.example', 'info@lund.example']);
    expect(of(reading, 'phone')).toEqual(['+46701740601', '+46701740602']);
  });

  it('says what of it cannot be used, and keeps the rest', () => {
    const reading = read('Bo', '', 'Lund', 'not-an-address', '12', '30.02.1980', '');
    expect(reading.problems).toEqual([
      { column: 3, text: '“not-an-address” is no email address' },
      { column: 4, text: '“12” is no phone number' },
      { column: 5, text: '“30.02.1980” is no day' },
    ]);
    expect(of(reading, 'fullName')).toEqual(['Bo']);
  });

  it('is the same person as another row by address, then number and name, then name and firm', () => {
    const key = (...row: string[]) => rowKey(read(...row).claims);
    expect(key('A', 'B', '', 'x@y.example', '', '', '')).toBe(
      key('Other', 'Name', 'Z', 'X@Y.example', '', '', ''),
    );
    expect(key('A', 'B', '', '', '+46701740601', '', '')).not.toBe(
      key('C', 'B', '', '', '+46701740601', '', ''),
    );
    expect(key('A', 'B', 'Sol', '', '', '', '')).toBe(key('a', 'b', 'SOL', '', '', '', ''));
    expect(key('', '', 'Sol', '', '', '', '')).toBeNull();
  });
});

describe('a row of companies or deals', () => {
  const how = { dates: 'day first', country: 'GB', currency: 'EUR' } as const;
  const read = (cells: Partial<Record<RecordField, string>>) =>
    readRecordRow(Object.entries(cells) as [RecordField, string][], how);

  it('is known by its headings, each field once', () => {
    expect(guessRecordFields('companies', ['Company', 'Website', 'Employees', 'Firm', 'Stage'])).toEqual([
      'companyName',
      'domain',
      'employees',
      'none',
      'none',
    ]);
    expect(
      guessRecordFields('deals', [
        'Deal',
        'Value',
        'Currency',
        'Phase',
        'Close date',
        'Account',
        'Account ID',
      ]),
    ).toEqual(['dealTitle', 'amount', 'currency', 'stage', 'expectedClose', 'companyName', 'companyId']);
  });

  it('is kept as it will stand in the records', () => {
    expect(
      read({
        companyName: ' Padaria  Sol ',
        domain: 'https://www.sol.example/about',
        country: 'pt',
        phone: '020 7946 0018',
        employees: '1,250',
      }),
    ).toEqual({
      data: {
        companyName: 'Padaria Sol',
        domain: 'sol.example',
        country: 'PT',
        phone: '+442079460018',
        employees: 1250,
      },
      problems: [],
    });
    expect(
      read({ dealTitle: 'Bikes', amount: '£ 40.000,50', currency: 'gbp', expectedClose: '3/4/2027' }),
    ).toEqual({
      data: { dealTitle: 'Bikes', amountMinor: 4_000_050, currency: 'GBP', expectedClose: '2027-04-03' },
      problems: [],
    });
  });

  it.each([
    ['employees', '12.5'],
    ['employees', '999999999999'],
    ['employees', '., '],
    ['employees', 'many'],
    ['expectedClose', '30.02.2027'],
    ['expectedClose', 'soon'],
    ['amount', 'a lot'],
    ['amount', '99999999999999999999'],
    ['currency', 'EURO'],
    ['country', 'Portugal'],
    ['recordId', '17'],
    ['email', 'a b@c'],
    ['phone', '12'],
  ] as const)('a cell of %s that says %j is left out, with the reason', (field, text) => {
    const { data, problems } = read({ [field]: text });
    expect([data, problems.length]).toEqual([{}, 1]);
    expect(problems[0]).toContain(text.trim());
  });

  it.each([
    ['1250', 1250],
    ['1.250', 1250],
    ["1'250", 1250],
    ['1 250', 1250],
    ['12,500', 12_500],
  ])('%s people are %d', (text, people) => {
    expect(read({ employees: text }).data.employees).toBe(people);
  });
});
