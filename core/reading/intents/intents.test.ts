import fc from 'fast-check';
import { readIntents } from './read';
import { readNumber } from './numbers';

const SENT = '2026-11-23T16:40:00+01:00';
const read = (text: string, countries: string[] = []) =>
  readIntents(
    text.split('\n').map((line, index, all) => ({
      text: line,
      start: all.slice(0, index).join('\n').length + (index ? 1 : 0),
    })),
    SENT,
    countries,
  );
const values = (text: string, kind: string) =>
  read(text)
    .filter((intent) => intent.kind === kind)
    .map((intent) => intent.value);

describe('a written number', () => {
  it.each([
    ['40,000', 40_000],
    ['40.000', 40_000],
    ['40 000', 40_000],
    ['12.500,50', 12_500.5],
    ['1,250.50', 1250.5],
    ['40k', 40_000],
    ['2.5m', 2_500_000],
    ['eight', 8],
    ['twenty-five', 25],
    ['half a dozen', 6],
    ['two dozen', 24],
    ['forty thousand', 40_000],
    ['3,5', 3.5],
  ])('%s is %d', (text, value) => expect(readNumber(text)).toBe(value));
  it('is null where there is none', () => expect(readNumber('bikes')).toBeNull());
});

describe('dates and times', () => {
  it('are not cut at a German ordinal', () =>
    expect(
      values(
        'Können wir am 2. Dezember um 10 Uhr vorbeikommen und das ansehen? Wir bitten um Antwort.',
        'date',
      ),
    ).toEqual([{ at: '2026-12-02T10:00:00+01:00', allDay: false }]));
  it.each([
    ['Can we talk on Thursday at 11?', '2026-11-26T11:00:00+01:00', false],
    ['Let us meet tomorrow at 3pm.', '2026-11-24T15:00:00+01:00', false],
    ['We start on 4 December.', '2026-12-04T00:00:00+01:00', true],
    [
      'Bitte rufen Sie mich am Donnerstag um 14 Uhr an, das wäre und bliebe gut.',
      '2026-11-26T14:00:00+01:00',
      false,
    ],
  ])('%s', (text, at, allDay) => expect(values(text, 'date')).toEqual([{ at, allDay }]));

  it('are not read from what is over', () =>
    expect(values('thank you for the call on Friday.', 'date')).toEqual([]));
});

describe('money', () => {
  it.each([
    ['We can spend about 40,000 euros.', { minor: 4_000_000, currency: 'EUR', approximate: true }],
    ['Unser Budget liegt bei 12.500,50 €.', { minor: 1_250_050, currency: 'EUR', approximate: false }],
    ['It costs £21,000 at most.', { minor: 2_100_000, currency: 'GBP', approximate: false }],
    ['Our budget is around USD 33k.', { minor: 3_300_000, currency: 'USD', approximate: true }],
    ['The budget is 40k.', { minor: 4_000_000, currency: 'EUR', approximate: false }],
  ])('%s', (text, value) => expect(values(text, 'money')).toEqual([value]));

  it('without a currency is of the sender’s country', () =>
    expect(read('The budget is 40k.', ['GB']).find((one) => one.kind === 'money')?.value).toMatchObject({
      currency: 'GBP',
    }));
  it('is not a date, a time or a count', () =>
    expect(values('On 4 December at 10 we take 12 bikes.', 'money')).toEqual([]));
});

describe('quantities', () => {
  it.each([
    ['We would like eight long bikes.', [{ count: 8, of: 'long bikes' }]],
    [
      'Please quote for 20 bikes and 5 trailers.',
      [
        { count: 20, of: 'bikes' },
        { count: 5, of: 'trailers' },
      ],
    ],
    ['Wir brauchen sechs Lastenräder.', [{ count: 6, of: 'Lastenräder' }]],
  ])('%s', (text, expected) => expect(values(text, 'quantity')).toEqual(expected));
  it('are not hours, days or people', () =>
    expect(values('We need it in 3 weeks, for 2 hours, with 5 people.', 'quantity')).toEqual([]));
});

describe('asks', () => {
  it('are what they want of us, with the day it is due', () => {
    expect(values('Could you send the quote before Thursday?', 'ask')).toEqual([
      { what: 'send the quote before Thursday', due: '2026-11-26T00:00:00+01:00' },
    ]);
  });
  it('are not politeness', () =>
    expect(values('Please do not hesitate to call.\nI hope you are well.', 'ask')).toEqual([]));
});

describe('spans', () => {
  it('hold the words they were read from', () => {
    const text = 'Hello,\n\nCould you send it by Friday? We need eight bikes for about 40,000 euros.';
    for (const intent of read(text))
      if (intent.kind !== 'ask') expect(text.slice(intent.span.start, intent.span.end)).toBe(intent.text);
  });
  it('stand inside the text, whatever the text', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom(
            'Could you',
            'send',
            '8 bikes',
            '40k',
            '€',
            'Thursday at 11',
            '\n',
            '.',
            '?',
            ' ',
            'é',
            '12.500,00',
          ),
          { maxLength: 40 },
        ),
        (words) => {
          const text = words.join(' ');
          for (const { span } of read(text)) {
            expect(span.start).toBeGreaterThanOrEqual(0);
            expect(span.end).toBeGreaterThan(span.start);
            expect(span.end).toBeLessThanOrEqual(text.length);
          }
        },
      ),
    );
  });
});

describe('counts as people write them', () => {
  it.each([
    ['We would like eight long bikes.', ['8 long bikes']],
    ['Please quote for 20 bikes and 5 trailers.', ['20 bikes', '5 trailers']],
    ['für ein Forschungsprojekt benötigen wir zwei Lastenräder mit Messtechnik.', ['2 Lastenräder']],
    [
      '¿Podrían enviarnos un presupuesto de cinco bicicletas y dos remolques?',
      ['5 bicicletas', '2 remolques'],
    ],
    ['Nous recherchons trois triporteurs pour nos livraisons.', ['3 triporteurs']],
    ['proszę o ofertę na trzy rowery cargo', ['3 rowery']],
    ['Vi behöver åtta lådcyklar till våren.', ['8 lådcyklar']],
    ['Merci de nous faire parvenir une soumission pour deux vélos-cargos.', ['2 vélos-cargos']],
    ['Könnten Sie uns ein Angebot für 5 Räder machen?', ['5 Räder']],
    ['Do you have a dozen trailers?', ['12 trailers']],
    ["We'd need a couple of trikes", ['2 trikes']],
    ['Looking for 3x cold boxes', ['3 cold boxes']],
    ['2 service plans please', ['2 service plans']],
    ['We need 40 e-cargo bikes', ['40 e-cargo bikes']],
    ['We have 30 employees and 2 shops', []],
    ['Call me in 5 minutes', []],
    ['between 10 and 12 bikes', ['12 bikes']],
    ['Wir haben 3 Filialen', []],
    ['one of the bikes is broken', []],
    ['We want two more trailers', ['2 more trailers']],
    ['kan dere gi pris på 9 lastesykler?', ['9 lastesykler']],
    ['Vorremmo tre cargo bike per il forno', ['3 cargo bike']],
    ['25 extra-long cargo bikes with rain covers', ['25 extra-long cargo bikes']],
    ['Graag een offerte voor vier bakfietsen.', ['4 bakfietsen']],
    ["I'd like to order 6 helmets", ['6 helmets']],
    ['We want 100 units', ['100 units']],
  ])('%s', (text, expected) =>
    expect(
      read(text).flatMap((one) => (one.kind === 'quantity' ? [`${one.value.count} ${one.value.of}`] : [])),
    ).toEqual(expected),
  );
});

describe('sums as people write them', () => {
  it.each([
    ['We can spend about 40,000 euros.', ['4000000 EUR ~']],
    ['Budget 9.000 Euro', ['900000 EUR']],
    ['around £5k', ['500000 GBP ~']],
    ['circa 12k budget', ['1200000 EUR ~']],
    ['budget USD 1.2m', ['120000000 USD']],
    ['We have DKK 250.000 for it', ['25000000 DKK']],
    ['30 000 € HT', ['3000000 EUR']],
    ["CHF 45'000", ['4500000 CHF']],
    ['up to €900', ['90000 EUR ~']],
    ['It costs 8.000,- €', ['800000 EUR']],
    ['forty thousand euros', ['4000000 EUR']],
    ['12,50 € each', ['1250 EUR']],
    ['$1,250.50 total', ['125050 USD']],
    ['Our budget is 15000', ['1500000 EUR']],
    ['we pay 3 euros', ['300 EUR']],
    ['between 20 and 25k euros', ['2500000 EUR']],
    ['5.000 kr', ['500000 SEK']],
    ['in 2026 we paid nothing', []],
    ['20k people live here', []],
    ['presupuesto máximo de 36.000 euros', ['3600000 EUR']],
    ['mit einem Budget von rund 20 Tsd. Euro', ['2000000 EUR ~']],
    ['AUD 60k', ['6000000 AUD']],
    ['€12-15k', ['1500000 EUR ~']],
    ['half a million dollars', ['50000000 USD']],
    ["jusqu'à 30 k€", ['3000000 EUR']],
    ['20 000 zł', ['2000000 PLN']],
  ])('%s', (text, expected) =>
    expect(
      read(text).flatMap((one) =>
        one.kind === 'money'
          ? [`${one.value.minor} ${one.value.currency}${one.value.approximate ? ' ~' : ''}`]
          : [],
      ),
    ).toEqual(expected),
  );
});
