import { addressLikeness, countriesOfAddress, hasHouseShape, hasPostcode } from './addresses';

// How addresses are written in each country: the formats national posts publish (Universal Postal Union, addressing
// systems); from memory, with made-up streets.
const WRITTEN: readonly [string, string][] = [
  ['12 Quay Street, Bristol BS1 4TX', 'GB'],
  ['Main Street, Ballycarra, Co. Mayo, F26 X2Y3', 'IE'],
  ['415 Harrow Street, Brooklyn, NY 11201', 'US'],
  ['455, rue Saint-Paul Ouest, Montréal (Québec) H2Y 2A7', 'CA'],
  ['1 Civic Drive, Redgum Flat VIC 3550', 'AU'],
  ['Lindenstraße 12, D-10969 Berlin', 'DE'],
  ['14 rue des Tanneurs, F-59000 Lille', 'FR'],
  ['Molenweg 3, 3011 AB Rotterdam', 'NL'],
  ['Av. Central 45, 4710-229 Braga', 'PT'],
  ['Calle Mayor 23, 28013 Madrid', 'ES'],
  ['Via Garibaldi 7, 40121 Bologna', 'IT'],
  ['Aarstrasse 21, CH-3011 Bern', 'CH'],
  ['ul. Polna 3/5, 00-625 Warszawa', 'PL'],
  ['Nørregade 18, DK-8000 Aarhus C', 'DK'],
];

describe('addresses', () => {
  it.each(WRITTEN)('%s is one, of %s', (text, country) => {
    expect(addressLikeness(text)).toBe(1);
    expect(hasPostcode(text)).toBe(true);
    expect(countriesOfAddress(text)[0]).toBe(country);
  });

  it.each(['Suite 300', 'Unit 7', '2nd floor', 'The Old Forge', 'Place de la Mairie', 'Portugal', 'Lyon'])(
    '%s is a part of one',
    (text) => expect(addressLikeness(text)).toBe(0.5),
  );

  it.each(['Buyer', 'Padaria Sol', 'Kind regards', '+351 910 555 014', '24/12/2026'])('%s is none', (text) =>
    expect(addressLikeness(text)).toBe(0),
  );
});

describe('a street whose word nobody knows', () => {
  it.each(['Alsterchaussee 17', 'Am Markt 3', 'Korenlei 9', '27 Esplanade', 'Strandvejen 104b'])(
    '%s has its shape',
    (text) => expect(hasHouseShape(text)).toBe(true),
  );
  it.each(['Buyer', 'Head of Route 66 Operations Team', '2026', '10 %'])('%s has not', (text) =>
    expect(hasHouseShape(text)).toBe(false),
  );
});
