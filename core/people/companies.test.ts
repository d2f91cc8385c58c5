import { addressLikeness, countriesOfAddress } from './addresses';
import { companyFitsDomain, companyKey, companyLikeness, companyNameFromDomain } from './companies';
import { companyDomain, findEmails, isEmail, normalizeEmail, registrableDomain } from './emails';

describe('a company', () => {
  it.each([
    ['The Padaria Sol, Lda.', 'padaria sol'],
    ['Backhaus Kestner GmbH & Co. KG', 'backhaus kestner'],
    ['PANIFICIO BELLANDI S.R.L.', 'panificio bellandi'],
    ['Pão & Sal', 'pao and sal'],
    ['Ltd', 'ltd'],
  ])('%s has the key %s', (name, key) => expect(companyKey(name)).toBe(key));

  it('fits the domains firms choose', () => {
    expect(companyFitsDomain('Padaria Sol', 'padariasol.example')).toBe(true);
    expect(companyFitsDomain('Pão & Sal', 'paoesal.example')).toBe(true);
    expect(companyFitsDomain('Noorderpoort Bezorging', 'noorderpoort.example')).toBe(true);
    expect(companyFitsDomain('Harbour Freight Movers', 'hfm.example')).toBe(true);
    expect(companyFitsDomain('Coral Crumb', 'padariasol.example')).toBe(false);
  });

  it('shows in its legal form or in what it does', () => {
    expect(companyLikeness('Brandvold Catering ApS')).toBe(1);
    expect(companyLikeness('Bäckerei Graf')).toBeGreaterThan(0.5);
    expect(companyLikeness('Head of Sales')).toBe(0);
  });

  it('can be named after its domain', () =>
    expect(companyNameFromDomain('long-bikes.example')).toBe('Long Bikes'));
});

describe('an address', () => {
  it.each([
    'Rua do Forno 21, Braga',
    '4710-100 Braga',
    'Mühlenweg 8',
    '10115 Berlin',
    '3 Lime Wharf, London E2 9DJ',
    '415 Harrow Street, Brooklyn, NY 11201',
    'PO Box 12',
  ])('is seen in %s', (text) => expect(addressLikeness(text)).toBe(1));
  it.each(['Ines Duarte', 'Head of Logistics', 'Kind regards'])('is not seen in %s', (text) =>
    expect(addressLikeness(text)).toBe(0),
  );
  it('suggests its country', () => {
    expect(countriesOfAddress('Molenweg 3, 3011 AB Rotterdam')[0]).toBe('NL');
    expect(countriesOfAddress('10115 Berlin, Germany')[0]).toBe('DE');
  });
});

describe('an email address', () => {
  // Source: RFC 5322 appendix A.1.1, addr-specs of its example messages.
  it.each([
    'jdoe@machine.example',
    'mary@example.net',
    'john.q.public@example.com',
    'sysservices@example.net',
  ])('%s is one', (address) => expect(isEmail(address)).toBe(true));
  it.each(['', 'Mary Smith', 'a@b', '@example.com', 'two@example.com three@example.com'])(
    '%s is none',
    (text) => expect(isEmail(text)).toBe(false),
  );
  it('is compared without case', () =>
    expect(normalizeEmail(' MAILTO:Ines@PadariaSol.example ')).toBe('ines@padariasol.example'));
  it('tells an employer unless it is free mail', () => {
    expect(companyDomain('a@mail.padariasol.example')).toBe('padariasol.example');
    expect(companyDomain('a@gmail.com')).toBeNull();
    expect(registrableDomain('https://www.firm.co.uk/x')).toBe('firm.co.uk');
  });
  it('is found in text with its place', () =>
    expect(findEmails('write to ines@padariasol.example.')).toEqual([
      { value: 'ines@padariasol.example', start: 9, end: 32 },
    ]));
});
