import { goodsOf } from '../intents/quantity';
import { readNote } from './read';

/** A Tuesday. What is said is resolved from here. Notes of our own making, in habits that are common practice. */
const AT = '2026-11-24T10:00:00+00:00';
const read = (text: string, country = 'GB', goods: readonly string[] = []) =>
  readNote(text, { at: AT, zone: 'Europe/London', country, goods });
const contacts = (text: string, country?: string): string[] =>
  read(text, country).claims.flatMap(({ field, normalized }) =>
    (field === 'phone' || field === 'email') && normalized ? [normalized] : [],
  );
const days = (text: string): string[] =>
  read(text).intents.flatMap(({ kind, value }) =>
    kind === 'date' ? [value.allDay ? value.at.slice(0, 10) : value.at.slice(0, 16)] : [],
  );
const sums = (text: string, country?: string): string[] =>
  read(text, country).intents.flatMap(({ kind, value }) =>
    kind === 'money' ? [`${value.minor} ${value.currency}`] : [],
  );
const counts = (text: string, goods?: readonly string[]): string[] =>
  read(text, 'GB', goods).intents.flatMap(({ kind, value }) =>
    kind === 'quantity' ? [`${value.count} ${value.of}`.trim()] : [],
  );

describe('addresses and numbers', () => {
  it.each([
    ['ada dot byron is wrong, write to ada at copper mills dot example', []],
    ['write to ada at coppermills dot example', ['ada@coppermills.example']],
    ['ada (at) coppermills.example. do not chase', ['ada@coppermills.example']],
    ['ada [at] coppermills [dot] example', ['ada@coppermills.example']],
    ['ada arroba coppermills punto example', ['ada@coppermills.example']],
    ['she is at the mills. Example follows', []],
    ['Ada 07700 900611, her assistant Kit is on 07700 900612', ['+447700900611']],
    ['new number 07700 900611 (old one 07700 900612 is dead)', ['+447700900611']],
    ["call 07700 900611, not her mobile 07700 900612 that's her son's", ['+447700900611']],
    ['send it to ada@mills.example, her brother is bo@mills.example', ['ada@mills.example']],
  ])('%s', (text, expected) => expect(contacts(text)).toEqual(expected));
  it('stand in a long sentence without marks', () => {
    const text = 'falei agora com a graça nogueira da florista nogueira 912 345 699 quer duas bicicletas';
    expect(contacts(text, 'PT')).toEqual(['+351912345699']);
  });
  it('end where the number ends, and not with the count behind it', () => {
    expect(contacts('Shane, Billabong Blooms, 0491 570 156. 80 stems weekly', 'AU')).toEqual([
      '+61491570156',
    ]);
    expect(contacts('0161 496 0733 12 bikes')).toEqual(['+441614960733']);
  });
});

describe('days', () => {
  it.each([
    ['meeting Tuesday after next', ['2026-12-08']],
    ['rappeler jeudi en huit', ['2026-12-03']],
    ['rappeler jeudi en quinze', ['2026-12-10']],
    ['ruft Donnerstag in einer Woche um 10 zurück', ['2026-12-03T10:00']],
    ['a week on Friday', ['2026-12-04']],
    ['Lieferung ab KW 3', ['2027-01-18']],
    ['delivery in week 49', ['2026-11-30']],
    ['needs it 3 weeks', []],
    ['second Monday of January', ['2027-01-11']],
    ['the last Friday in November 2026', ['2026-11-27']],
    ['25 Lizenzen zum 1. Januar', ['2027-01-01']],
    ['svar innen 11. desember', ['2026-12-11']],
    ['ring tmrw 9am', ['2026-11-25T09:00']],
    ['ring imorgon kl 13', ['2026-11-25T13:00']],
    ['they close over Christmas', []],
    ['nothing before Christmas', []],
    ['comes for Christmas Eve', []],
    ['party is on Christmas Eve', ['2026-12-24']],
  ])('%s', (text, expected) => expect(days(text)).toEqual(expected));
});

describe('sums', () => {
  it.each([
    ['he pays four hundred and twenty quid elsewhere', '42000 GBP'],
    ['seven and a half grand for one', '750000 GBP'],
    ['would go to 25 grand', '2500000 GBP'],
    ['only two hundred and fifty pounds', '25000 GBP'],
    ['20 Tsd. Euro Rahmen', '2000000 EUR'],
  ])('%s', (text, expected) => expect(sums(text)).toEqual([expected]));
  it.each([
    ['R350 000 approved, invoice in January', 'ZA', '35000000 ZAR'],
    ['R120k available', 'ZA', '12000000 ZAR'],
    ['Budget 15 lakh', 'IN', '150000000 INR'],
    ['Rs 2.5 crore in all', 'IN', '2500000000 INR'],
    ['budget 30mila euro', 'IT', '3000000 EUR'],
    ['diciottomila euro', 'IT', '1800000 EUR'],
    ['zwanzigtausend Euro', 'DE', '2000000 EUR'],
    ['rozpočet 300 tis. Kč', 'CZ', '30000000 CZK'],
    ['budżet 45 tys. zł', 'PL', '4500000 PLN'],
    ['he has $120k', 'CA', '12000000 CAD'],
    ['presupuesto $250,000', 'MX', '25000000 MXN'],
    ['2.500.000 pesos', 'AR', '250000000 ARS'],
    ['200.000 kr. i budget', 'DK', '20000000 DKK'],
    ["CHF 12'500", 'DE', '1250000 CHF'],
    ['he has $120k', 'DE', '12000000 USD'],
    ['not for$50', 'US', '5000 USD'],
  ])('%s in %s', (text, country, expected) => expect(sums(text, country)).toEqual([expected]));
  it.each(['try 3 bikes', 'all 20 of them', 'r 12 bikes', 'room for 20 quids in'])('none in %s', (text) =>
    expect(sums(text)).toEqual([]),
  );
  it('of other lands', () => {
    expect([sums('två cyklar, 120 tkr', 'SE'), sums('R$ 15 mil', 'PT')]).toEqual([
      ['12000000 SEK'],
      ['1500000 BRL'],
    ]);
    expect(sums('a grand day out, and a hundred people')).toEqual([]);
  });
});

describe('counts', () => {
  it.each([
    ['wants 40 elevators', ['40 elevators']],
    ['wants 6 not 4', ['6']],
    ['10 to start, possibly more by summer', ['10']],
    ['vill låna 1 lådcykel på prov', ['1 lådcykel']],
    ['Needs thirty for campus porters', ['30']],
    ['needs 5 for 3 weeks', []],
    ['once the stock take is done', []],
    ['une vingtaine de caisses par mois', ['20 caisses']],
    ['Une vingtaine... disons 24', ['24']],
    ['hun vil have 30 kasser om ugen', ['30 kasser']],
    ['chce jedenáct kol', ['11 kol']],
    ['she wants one', []],
    ['he wants 3 days on site', []],
    ['six five trailers', ['5 trailers']],
    ['onze remorques', ['11 remorques']],
    ['quindici licenze', ['15 licenze']],
    ['no, 12, not 10 crates', ['12 crates']],
    ['not 10 crates', []],
    ['wil er 10, niet 12', ['10']],
    ['qty 25 helmets', ['25']],
    ['deliver to 12 Mill Lane', []],
    ['in 3 weeks, 5 days', []],
  ])('%s', (text, expected) => expect(counts(text)).toEqual(expected));
  it('of what is sold are sure, whatever the trade; of anything else less so, and only where it is wanted or noted by itself', () => {
    const sure = (text: string, names: readonly string[]): number =>
      read(text, 'GB', names).intents.find(({ kind }) => kind === 'quantity')?.confidence ?? 0;
    expect(goodsOf(['Rose stem, long', 'Vase'])).toEqual(['rose', 'stem', 'long', 'vase']);
    for (const [text, name] of [
      ['two gondolas from March', 'Gondola'],
      ['twelve workbenches', 'Workbench'],
      ['200 peonies a week', 'Peonies'],
    ] as const)
      expect([sure(text, []), sure(text, [name])]).toEqual([0.75, 0.95]);
    expect(sure('they already had twelve workbenches at the old place', [])).toBe(0);
    expect(sure('she would like about 30 peonies', [])).toBe(0.75);
  });
});
