import { parseCards } from '../../formats/vcard';
import { addressText, readCardClaims } from './read';

const claimsOf = (lines: string[], country?: string) => {
  const [card] = parseCards(
    new TextEncoder().encode(['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n')),
  ).cards;
  return readCardClaims(card!, country);
};
const short = (lines: string[], country?: string): string[] =>
  claimsOf(lines, country).map(
    (claim) => `${claim.field}=${claim.normalized ?? claim.value}${claim.type ? `/${claim.type}` : ''}`,
  );

describe('the name on a card', () => {
  it.each([
    [['FN:Ines Duarte', 'N:Duarte;Ines;;;'], ['fullName=Ines Duarte']],
    [['N:Duarte;Ines;Maria;;'], ['fullName=Ines Maria Duarte']],
    [['FN:ines@sol.example', 'N:Duarte;Ines;;;'], ['fullName=Ines Duarte']],
    [['FN:Padaria Sol', 'ORG:Padaria Sol', 'N:;;;;'], ['companyName=Padaria Sol']],
    [
      ['FN:Sol', 'ORG:Sol', 'N:Sol;;;;'],
      ['fullName=Sol', 'companyName=Sol'],
    ],
    [['FN:Padaria Sol', 'KIND:org'], ['companyName=Padaria Sol']],
    [['FN:Padaria Sol', 'X-ABShowAs:COMPANY'], ['companyName=Padaria Sol']],
    [
      ['FN:Ines Duarte', 'ORG:Padaria Sol;Buying'],
      ['fullName=Ines Duarte', 'companyName=Padaria Sol'],
    ],
  ])('%j is %j', (lines, expected) => {
    expect(short(lines)).toEqual(expected);
  });
});

describe('the numbers on a card', () => {
  it.each([
    ['TEL;TYPE=CELL:+351 910 555 014', 'phone=+351910555014/mobile'],
    ['TEL;TYPE=iphone:+351 910 555 014', 'phone=+351910555014/mobile'],
    ['TEL;TYPE=WORK,FAX:+351 210 000 001', 'phone=+351210000001/fax'],
    ['TEL;TYPE=HOME:+351 210 000 001', 'phone=+351210000001/home'],
    ['TEL;VALUE=uri:tel:+351-210-000-001;ext=7', 'phone=+351210000001/work'],
  ])('%s is %s', (line, expected) => {
    expect(short(['FN:Ines Duarte', line])).toContain(expected);
  });

  it('written as at home are read as of the country that is told, and are less sure', () => {
    const [, at] = claimsOf(['FN:I D', 'TEL:910 555 014'], 'PT');
    const [, sure] = claimsOf(['FN:I D', 'TEL:+351 910 555 014'], 'PT');
    expect([at?.normalized, (at?.confidence ?? 1) < (sure?.confidence ?? 0)]).toEqual([
      '+351910555014',
      true,
    ]);
  });

  it('that are none are left out, and the same twice is kept once', () => {
    expect(short(['FN:I D', 'TEL:12', 'TEL:+351910555014', 'TEL;TYPE=HOME:+351 910 555 014'])).toEqual([
      'fullName=I D',
      'phone=+351910555014/mobile',
    ]);
  });
});

describe('a birthday', () => {
  it.each([
    ['BDAY:19800305', '1980-03-05'],
    ['BDAY:1980-03-05', '1980-03-05'],
    ['BDAY:1980-03-05T00:00:00Z', '1980-03-05'],
    ['BDAY:--0305', '--03-05'],
    ['BDAY:--0229', '--02-29'],
  ])('%s is %s', (line, day) => {
    expect(short(['FN:I D', line])).toContain(`birthday=${day}`);
  });

  it.each(['BDAY:soon', 'BDAY:1980-02-30', 'BDAY:19801301', 'BDAY:--0231', 'BDAY:1980'])(
    '%s is none',
    (line) => {
      expect(short(['FN:I D', line])).toEqual(['fullName=I D']);
    },
  );
});

it('an address is written as one line, as people write it', () => {
  expect(addressText(['', 'Suite 2', '2875 Laurier', 'Quebec', 'QC', 'G1V 2M2', 'Canada'])).toBe(
    'Suite 2, 2875 Laurier, G1V 2M2 Quebec, QC, Canada',
  );
  expect(short(['FN:I D', 'ADR;LABEL="Rua do Sol 1, Lisboa":;;;;;;'])).toContain(
    'address=Rua do Sol 1, Lisboa',
  );
  expect(addressText(['', '', '', '', '', '', ''])).toBe('');
});

it('links are told apart from profiles, and everything says where it stands', () => {
  const lines = [
    'FN:Ines Duarte',
    'TITLE:Buyer',
    'EMAIL:mailto:Ines@Sol.example',
    'EMAIL:not an address',
    'URL:sol.example/',
    'X-SOCIALPROFILE;TYPE=rollcall:https://rollcall.example/in/ines/',
    'TZ;VALUE=text:Europe/Lisbon',
    'NOTE:met at the fair',
  ];
  expect(short(lines)).toEqual([
    'fullName=Ines Duarte',
    'jobTitle=Buyer',
    'email=ines@sol.example',
    'url=https://sol.example',
    'profile=https://rollcall.example/in/ines',
    'timeZone=Europe/Lisbon',
    'note=met at the fair',
  ]);
  const [card] = parseCards(
    new TextEncoder().encode(['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n')),
  ).cards;
  for (const { span, value } of readCardClaims(card!, undefined, undefined, 100))
    if (span) expect(card!.raw.slice(span.start - 100, span.end - 100)).toBe(value);
});

it('a card made to hold a reader up is cut short', () => {
  const many = Array.from({ length: 5000 }, (_, at) => `EMAIL:a${at}@sol.example`);
  expect(claimsOf(['FN:I D', ...many])).toHaveLength(300);
});
