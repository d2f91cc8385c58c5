import { readIntents } from './read';
import { findMoments } from './when';

/** A Monday; what is said is resolved from here, on the clock of whoever said it. */
const SENT = '2026-11-23T16:40:00+01:00';

/** What a message of one sentence names: days as `2026-11-26`, appointments as `2026-11-26T11:00`. */
const whens = (text: string): string[] =>
  readIntents([{ text, start: 0 }], SENT, [])
    .map((intent) => intent.kind === 'date' && intent.value)
    .filter((value) => value !== false)
    .map(({ at, allDay }) => (allDay ? at.slice(0, 10) : at.slice(0, 16)));

describe('dates and times as people write them', () => {
  it.each([
    ['Can we talk on Thursday at 11?', ['2026-11-26T11:00']],
    ["Let's meet Thursday 11am.", ['2026-11-26T11:00']],
    ['Are you free next Tuesday at 4pm?', ['2026-12-01T16:00']],
    ['Does 3 December at half past two work?', ['2026-12-03T14:30']],
    ['Monday 30th at half ten suits me.', ['2026-11-30T10:30']],
    ['Please send it by the end of the week.', ['2026-11-27']],
    ['We need it by end of next week.', ['2026-12-04']],
    ['We must decide by 15/12/2026.', ['2026-12-15']],
    ['Our deadline is 1.12.2026.', ['2026-12-01']],
    ['Could you call me tomorrow morning?', ['2026-11-24']],
    ["I'm around this afternoon.", ['2026-11-23']],
    ['Call me tonight at 7.', ['2026-11-23T19:00']],
    ['We open on 1 March.', ['2027-03-01']],
    ['in two weeks would be fine', ['2026-12-07']],
    ['Can you come Wednesday between 2 and 4pm?', ['2026-11-25T14:00']],
    ['How about Thursday the 26th, 9.30am?', ['2026-11-26T09:30']],
    ['Friday at noon would be good.', ['2026-11-27T12:00']],
    ['Passt Ihnen Donnerstag um 11 Uhr?', ['2026-11-26T11:00']],
    ['Bitte bis zum 30.11. ein Angebot schicken.', ['2026-11-30']],
    ['Können wir am Dienstag, den 1. Dezember um 14:30 Uhr telefonieren?', ['2026-12-01T14:30']],
    ['Rufen Sie mich bitte morgen ab 9 Uhr an.', ['2026-11-24T09:00']],
    ['Wir brauchen das bis Ende nächster Woche.', ['2026-12-04']],
    ['Êtes-vous disponibles jeudi à 15h ?', ['2026-11-26T15:00']],
    ['Pouvez-vous nous rappeler mardi 1er décembre à 9h30 ?', ['2026-12-01T09:30']],
    ['Merci de répondre avant le 15 décembre.', ['2026-12-15']],
    ['Podem ligar na quinta às 11h?', ['2026-11-26T11:00']],
    ['Podem vir na sexta-feira, 27 de novembro, às 10h30?', ['2026-11-27T10:30']],
    ['Podem enviar amanhã?', ['2026-11-24']],
    ['¿Podemos probar una bicicleta el viernes 27 a las 10:00?', ['2026-11-27T10:00']],
    ['¿Podrían llamarme el jueves a las 11?', ['2026-11-26T11:00']],
    ['Necesitamos la oferta antes del 11 de diciembre.', ['2026-12-11']],
    ['Kunnen we zaterdag 5 december om 11 uur een proefrit maken?', ['2026-12-05T11:00']],
    ['Kunt u donderdag om 14.00 uur bellen?', ['2026-11-26T14:00']],
    ['Graag voor 1 december een voorstel.', ['2026-12-01']],
    ['Possiamo sentirci giovedì alle 11?', ['2026-11-26T11:00']],
    ['Potreste inviarci un preventivo entro venerdì?', ['2026-11-27']],
    ['Kan vi ses på torsdag kl 14?', ['2026-11-26T14:00']],
    ['Could you deliver the week of 7 December?', ['2026-12-07']],
    ['Ideally by Christmas.', ['2026-12-25']],
    ['Let me know by COB Friday.', ['2026-11-27']],
    ['See you on the 12th at 2pm', ['2026-12-12T14:00']],
    ['Can you do 10:15 on 4 Dec?', ['2026-12-04T10:15']],
    ['by 2026-12-01 please', ['2026-12-01']],
    ['12/01/2026 works for us', ['2026-12-01']],
    ['Could we say Wed 9 Dec, 3:30 pm?', ['2026-12-09T15:30']],
    ["The 9th of December at 10 o'clock would be perfect.", ['2026-12-09T10:00']],
    ['Can you come over on Tuesday the 8th at 14:00?', ['2026-12-08T14:00']],
    ["I'll be in Bristol next Friday.", ['2026-12-04']],
    ['Could you call me at 3pm?', ['2026-11-24T15:00']],
    ['Please come at quarter past nine on Monday.', ['2026-11-30T09:15']],
    ['We could do 2pm tomorrow', ['2026-11-24T14:00']],
    ['How about tomorrow at 14h?', ['2026-11-24T14:00']],
    ['Either Tuesday or Thursday afternoon', ['2026-11-24', '2026-11-26']],
    ['by mid-January', ['2027-01-15']],
    ["We'd like delivery in April 2027.", ['2027-04-01']],
    ['before the end of February', ['2027-02-28']],
    ['within 10 days', ['2026-12-03']],
    ['Friday week at 9 if possible?', ['2026-12-04T09:00']],
    ['Delivery by 1st March 2027', ['2027-03-01']],
    ['between 12 and 14 December', ['2026-12-12']],
    ['on the 3rd or 4th of December', ['2026-12-03']],
    ['10 am on Wednesday 25 November', ['2026-11-25T10:00']],
    ['Wed. 2 December 2026, 11:00 CET', ['2026-12-02T11:00']],
    ['Unser Termin am 5. Januar um 8:30 Uhr', ['2027-01-05T08:30']],
    ['nächsten Mittwoch gegen 16 Uhr', ['2026-12-02T16:00']],
    ['Geht auch übermorgen um halb zehn?', ['2026-11-25T09:30']],
    ['spätestens bis 15.12.', ['2026-12-15']],
    ['am Freitag, 27.11., um 13 Uhr', ['2026-11-27T13:00']],
    ['in drei Wochen', ['2026-12-14']],
    ['lundi prochain à 14 h', ['2026-11-30T14:00']],
    ['le 2 décembre entre 10h et 12h', ['2026-12-02T10:00']],
    ["d'ici fin janvier", ['2027-01-31']],
    ['dans deux semaines', ['2026-12-07']],
    ['no dia 4 de dezembro pelas 15h', ['2026-12-04T15:00']],
    ['na próxima terça às 10h', ['2026-12-01T10:00']],
    ['até ao final da semana', ['2026-11-27']],
    ['el próximo martes a las 9:30', ['2026-12-01T09:30']],
    ['mañana por la mañana', ['2026-11-24']],
    ['pasado mañana a las 5 de la tarde', ['2026-11-25T17:00']],
    ['volgende week woensdag om 10 uur', ['2026-12-02T10:00']],
    ['dinsdag 1 december om half elf', ['2026-12-01T10:30']],
    ['giovedì 3 dicembre alle ore 15', ['2026-12-03T15:00']],
    ['entro il 10 gennaio', ['2027-01-10']],
    ['fredag den 4. december kl. 10', ['2026-12-04T10:00']],
    ['w piątek o 12:00', ['2026-11-27T12:00']],
    ['I can do any time Thursday', ['2026-11-26']],
    ['from Monday to Friday', []],
    ['Geht es kommende Woche?', ['2026-11-30']],
    ['Passt Ihnen kommenden Mittwoch?', ['2026-11-25']],
  ])('%s', (text, expected) => expect(whens(text)).toEqual(expected));
});

describe('what only looks like a date', () => {
  it.each([
    'We work from 9 to 5.',
    'We deliver before 7am every day.',
    'Guten Morgen, was kostet ein Rad?',
    'Could we hire two bikes for three weeks?',
    "We'd need a trailer that takes 2.4 m boards.",
    'Thanks for the call on Friday.',
    'Our route is 30 km and takes 2 hours.',
    'The bike we bought in 2024 is fine.',
    'It costs 12.50 at the moment.',
    'We have 12 May Street as our depot.',
    '12 bikes, 3 trailers',
    'We have 3 shops and 2 vans',
    'Our budget is 12.500 euros',
    'It weighs 2.5 kg',
    'The model XL 4.2 fits',
    'The second option is best',
    'We may march on',
    'The sun sat on the sea',
    'Order no. 2231/26',
    'a 60/40 split',
    'ratio 10/12 on the form',
    'in 2019 we started',
    'we opened on 4 May 2019',
    'Last Friday we tried it',
    'The April order was fine',
  ])('%s', (text) => expect(whens(text)).toEqual([]));
});

describe('a moment', () => {
  it('is on the clock of whoever said it', () =>
    expect(findMoments('Thursday at 11', { reference: '2026-11-23T23:30:00-08:00' })[0]?.at).toBe(
      '2026-11-26T11:00:00-08:00',
    ));
  it('follows summer time where the zone is known', () =>
    expect(findMoments('1 April at 9:00', { reference: SENT, zone: 'Europe/Lisbon' })[0]?.at).toBe(
      '2027-04-01T09:00:00+01:00',
    ));
  it('takes the zone that is named with it', () =>
    expect(findMoments('Thursday 3pm EST', { reference: SENT })[0]?.at).toBe('2026-11-26T15:00:00-05:00'));
  it('puts the month first for an American', () =>
    expect(findMoments('by 12/4/2026', { reference: SENT, monthFirst: true })[0]?.at).toBe(
      '2026-12-04T00:00:00+01:00',
    ));
  it('keeps the words it was read from', () => {
    const text = 'Könnten Sie am Dienstag, den 1. Dezember um 14:30 Uhr anrufen?';
    const [moment] = findMoments(text, { reference: SENT });
    expect(text.slice(moment?.start, moment?.end)).toBe('Dienstag, den 1. Dezember um 14:30 Uhr');
  });
});
