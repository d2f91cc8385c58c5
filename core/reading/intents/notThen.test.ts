import { findMoments } from './when';

/** Tuesday 24 November 2026. */
const SAID = { reference: '2026-11-24T10:00:00+00:00', zone: 'Europe/London' };
const days = (text: string): string[] => findMoments(text, SAID).map(({ at }) => at.slice(0, 10));

describe('a day on which something took place is no appointment', () => {
  it.each([
    'rang Monday',
    'emailed Tuesday, no answer',
    'left vm Monday',
    'delivered Monday',
    'paid Friday',
    'spoke 12 Nov',
    'met at the fair on 3 October',
    'quote sent 18.11.',
    'Angebot vom 12.11.',
    'devis du 12 novembre',
    'falei na quinta-feira',
    'llamó el lunes',
    "loved Friday's demo",
    "Monday's delivery was late",
  ])('%s', (text) => expect(days(text)).toEqual([]));
  it.each([
    ['call Monday', '2026-11-30'],
    ['she said Friday is fine', '2026-11-27'],
    ['back from leave Monday', '2026-11-30'],
    ["Monday's fine", '2026-11-30'],
    ['lease ends 31 March', '2027-03-31'],
    ['deliver Friday', '2026-11-27'],
    ['à partir du 3 décembre', '2026-12-03'],
  ])('but %s', (text, day) => expect(days(text)).toEqual([day]));
});

describe('a day on which somebody is never there is none either', () => {
  it.each([
    'not in on Monday',
    'day off Wednesday',
    'shut Monday',
    'closed on Sunday',
    'am Freitag geschlossen',
    'fermé le lundi',
    'cerrado los lunes',
    'chiuso il lunedì',
    'maandag gesloten',
    'lukket mandag',
    'works every Friday',
    'Tuesday team meeting every week',
    "can't do Tuesday",
  ])('%s', (text) => expect(days(text)).toEqual([]));
  it('of a day until which somebody is away and another, the other is meant', () =>
    expect(days('she is off til Wednesday so ring Thursday')).toEqual(['2026-11-26']));
  it('of two days, the one that was not refused is meant', () =>
    expect(days('Thursday, not Friday')).toEqual(['2026-11-26']));
});

describe('days that are hours of business, or another name', () => {
  it.each([
    'there Monday to Friday',
    'Montag bis Freitag erreichbar',
    'lundi au vendredi',
    'lunes a viernes',
    'Black Friday',
    'Sunday roast',
    'Friday night market',
    'Christmas rush',
  ])('%s', (text) => expect(days(text)).toEqual([]));
  it('what was moved is on the later of its days', () =>
    expect(days('moved from Monday to Wednesday')).toEqual(['2026-11-25']));
});

describe('ways of speaking', () => {
  it.each([
    ['tomorrow week', '2026-12-02'],
    ['one week today', '2026-12-01'],
    ['heute in zwei Wochen', '2026-12-08'],
    ['the first of December', '2026-12-01'],
    ['lundi 7', '2026-12-07'],
    ['mid december', '2026-12-15'],
    ['end of Jan', '2027-01-31'],
    ['2nd Tues in Dec', '2026-12-08'],
    ['Freitag in acht Tagen', '2026-12-04'],
    ['pojutrze', '2026-11-26'],
    ['Friday 14-15', '2026-11-27'],
    ['the week after next', '2026-12-07'],
    ['Tuesday fortnight', '2026-12-15'],
    ['in about three weeks', '2026-12-15'],
    ['6 weeks from now', '2027-01-05'],
    ['between 10 and 12 on Monday', '2026-11-30'],
    ['day after tomorrow 9ish', '2026-11-26'],
    ['übernächste Woche', '2026-12-07'],
    ['übernächsten Montag', '2026-12-07'],
    ['bis Monatsende', '2026-11-30'],
    ['am 24.', '2026-11-24'],
    ['Freitagvormittag', '2026-11-27'],
    ['fin du mois', '2026-11-30'],
    ['a finales de mes', '2026-11-30'],
    ['daqui a duas semanas', '2026-12-08'],
    ['até ao dia 20', '2026-12-20'],
    ['segunda de manhã', '2026-11-30'],
    ['vrijdagmiddag', '2026-11-27'],
    ['neste uke', '2026-11-30'],
    ['om to uger', '2026-12-08'],
    ['w przyszłym tygodniu', '2026-11-30'],
    ['za dwa tygodnie', '2026-12-08'],
    ['do końca miesiąca', '2026-11-30'],
    ['do środy', '2026-11-25'],
    ['příští týden', '2026-11-30'],
    ['ve středu', '2026-11-25'],
    ['ensi viikolla', '2026-11-30'],
    ['kahden viikon päästä', '2026-12-08'],
    ['torstaina klo 11', '2026-11-26'],
  ])('%s', (text, day) => expect(days(text)).toEqual([day]));
  it.each(['any day but Friday', 'jeden Tag außer Freitag', 'tous les jours sauf vendredi'])(
    'a day that is left out is none: %s',
    (text) => expect(days(text)).toEqual([]),
  );
  it.each(['in March', 'decides in January', 'im März'])('a month alone is not its first day: %s', (text) =>
    expect(days(text)).toEqual([]),
  );
});
