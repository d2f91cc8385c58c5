import { readCallSheet } from './callSheet';
import { readComposerLine } from './composer';

/** A Tuesday morning in London. All lines are made up. */
const NOW = '2026-11-24T09:00:00+00:00';
const composed = (line: string) =>
  readComposerLine(line, {
    now: NOW,
    zone: 'Europe/London',
    userId: 'pell',
    currency: 'EUR',
    users: [{ id: 'ines', name: 'Ines Tolland', email: 'ines@wharfside.example' }],
  });

describe('the composer reads what is to be done in the languages the reader knows', () => {
  it.each([
    [
      'Frau Vogt am Donnerstag um 11 Uhr anrufen wegen des Angebots',
      'call',
      '2026-11-26T11:00',
      'Frau Vogt anrufen wegen des Angebots',
    ],
    ['Angebot bis Mittwoch schicken', 'mail', '2026-11-25T00:00', 'Angebot schicken'],
    [
      'appeler Mme Blanc jeudi à 11h au sujet du devis',
      'call',
      '2026-11-26T11:00',
      'Appeler Mme Blanc au sujet du devis',
    ],
    ['Il faut envoyer le devis avant mercredi', 'mail', '2026-11-25T00:00', 'Envoyer le devis'],
    [
      'llamar a Rosa el jueves a las 11 por el presupuesto',
      'call',
      '2026-11-26T11:00',
      'Llamar a Rosa por el presupuesto',
    ],
    ['enviar presupuesto antes del miércoles', 'mail', '2026-11-25T00:00', 'Enviar presupuesto'],
    ['ligar ao Rui na quinta às 11h', 'call', '2026-11-26T11:00', 'Ligar ao Rui'],
    ['enviar proposta até quarta', 'mail', '2026-11-25T00:00', 'Enviar proposta'],
    [
      'chiamare Anna giovedì alle 11 per il preventivo',
      'call',
      '2026-11-26T11:00',
      'Chiamare Anna per il preventivo',
    ],
    ['inviare il preventivo entro mercoledì', 'mail', '2026-11-25T00:00', 'Inviare il preventivo'],
    [
      'Jan donderdag om 11 uur bellen over de offerte',
      'call',
      '2026-11-26T11:00',
      'Jan bellen over de offerte',
    ],
    ['offerte sturen voor woensdag', 'mail', '2026-11-25T00:00', 'Offerte sturen'],
    ['ringe Kari torsdag kl 11 om tilbudet', 'call', '2026-11-26T11:00', 'Ringe Kari om tilbudet'],
    ['skicka offert innan onsdag', 'mail', '2026-11-25T00:00', 'Skicka offert'],
    ['ring Mette torsdag kl. 11', 'call', '2026-11-26T11:00', 'Ring Mette'],
    ['zadzwonić do Anny w czwartek o 11', 'call', '2026-11-26T11:00', 'Zadzwonić do Anny'],
    ['zavolat paní Novákové ve čtvrtek v 11', 'call', '2026-11-26T11:00', 'Zavolat paní Novákové'],
    ['soita Mattille torstaina klo 11', 'call', '2026-11-26T11:00', 'Soita Mattille'],
    ["I'll send the quote tomorrow", 'mail', '2026-11-25T00:00', 'Send the quote'],
    ['Friday call Rui', 'call', '2026-11-27T00:00', 'Call Rui'],
  ])('“%s”', (line, kind, due, title) => {
    const { nextMove, entry } = composed(line);
    expect([nextMove?.kind, nextMove?.dueAt.slice(0, 16), entry]).toEqual([kind, due, null]);
    expect(nextMove?.title).toBe(title);
  });

  // What somebody else will do is nothing for us to do.
  it.each([
    'Frau Vogt will uns anrufen',
    'Er will am Freitag anrufen',
    'Rosa va a llamar mañana',
    'Elle va rappeler lundi',
    'Jan belt vrijdag terug',
    "she'll call Friday",
  ])('“%s” is a note', (line) => {
    expect(composed(line)).toMatchObject({ nextMove: null, entry: { kind: 'note', side: 'within' } });
  });
});

describe('the composer reads what took place in the languages the reader knows', () => {
  it.each([
    [
      'Gestern um 15 Uhr Frau Vogt angerufen, sie will 8 Lastenräder',
      'call',
      'ours',
      '2026-11-23T15:00',
      'spoke',
    ],
    ['Frau Vogt hat angerufen, möchte ein Angebot', 'call', 'theirs', undefined, 'spoke'],
    ['War bei der Bäckerei Sonne, niemand da', 'visit', 'ours', undefined, 'no answer'],
    ['Termin wurde auf Freitag verschoben', 'meeting', 'ours', undefined, 'moved'],
    ['Hier à 15h appelé Mme Blanc, elle veut 8 vélos', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['Marie a rappelé, veut un devis', 'call', 'theirs', undefined, 'spoke'],
    ["J'ai eu Marie au téléphone il y a deux jours", 'call', 'ours', '2026-11-22T12:00', 'spoke'],
    [
      'passé chez Boulangerie du Lac vendredi, personne sur place',
      'visit',
      'ours',
      '2026-11-20T12:00',
      'no answer',
    ],
    ['Ayer a las 15:00 llamé a Rosa, quiere 8 bicicletas', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['Rosa ha llamado, quiere presupuesto', 'call', 'theirs', undefined, 'spoke'],
    ['Hace dos días hablé con Rosa', 'call', 'ours', '2026-11-22T12:00', 'spoke'],
    ['Ontem às 15h falei com o Rui, quer 8 bicicletas', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['O Rui ligou, quer uma proposta', 'call', 'theirs', undefined, 'spoke'],
    ['Ieri alle 15 ho chiamato Anna, vuole 8 bici', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['Due giorni fa parlato con Anna', 'call', 'ours', '2026-11-22T12:00', 'spoke'],
    ['Gisteren om 15 uur Jan gebeld, hij wil 8 bakfietsen', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['Jan heeft gebeld, wil offerte', 'call', 'theirs', undefined, 'spoke'],
    ['Twee dagen geleden met Jan gesproken', 'call', 'ours', '2026-11-22T12:00', 'spoke'],
    ['I går kl 15 ringte jeg Kari, hun vil ha 8 sykler', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
    ['Kari ringte, vil ha tilbud', 'call', 'theirs', undefined, 'spoke'],
    ['för två dagar sedan ringde Kalle', 'call', 'ours', '2026-11-22T12:00', 'spoke'],
    ['Wczoraj rozmawiałem z Anną, chce 8 rowerów', 'call', 'ours', '2026-11-23T12:00', 'spoke'],
    ['Včera jsem volal', 'call', 'ours', '2026-11-23T12:00', 'spoke'],
    ['Eilen puhuin Matin kanssa', 'call', 'ours', '2026-11-23T12:00', 'spoke'],
    ['call from Rui, wants 8 bikes', 'call', 'theirs', undefined, 'spoke'],
    ['20 minutes ago spoke to Rui', 'call', 'ours', '2026-11-24T08:40', 'spoke'],
    // A colleague is one of us.
    ['Ines called Rui yesterday at 3', 'call', 'ours', '2026-11-23T15:00', 'spoke'],
  ])('“%s”', (line, kind, side, at, outcome) => {
    const { entry } = composed(line);
    expect([entry?.kind, entry?.side, entry?.at?.slice(0, 16), entry?.outcome]).toEqual([
      kind,
      side,
      at,
      outcome,
    ]);
  });

  it.each([
    ['Mailbox, morgen nochmal versuchen', 'voicemail', '2026-11-25'],
    ['Herrn Brandt nicht erreicht, Freitag zurückrufen', 'no answer', '2026-11-27'],
    ['Laissé un message sur le répondeur, rappeler demain', 'voicemail', '2026-11-25'],
    ['no contesta, llamar mañana', 'no answer', '2026-11-25'],
    ['deixei recado, ligar amanhã', 'voicemail', '2026-11-25'],
    ['non risponde, richiamare domani', 'no answer', '2026-11-25'],
    ['Jan niet bereikt, vrijdag terugbellen', 'no answer', '2026-11-27'],
    ['ikke svar, ringe i morgen', 'no answer', '2026-11-25'],
    ['no answer, call again tomorrow', 'no answer', '2026-11-25'],
  ])('“%s” is a call that reached nobody, and another to come', (line, outcome, due) => {
    const { entry, nextMove } = composed(line);
    expect([entry?.kind, entry?.outcome, nextMove?.kind, nextMove?.dueAt.slice(0, 10)]).toEqual([
      'call',
      outcome,
      'call',
      due,
    ]);
  });
});

it('the composer shows the words that it understood', () => {
  const line = 'Gestern um 15 Uhr angerufen, sie will 8 Lastenräder. Am Donnerstag um 11 Uhr zurückrufen';
  expect(composed(line).lit.map(({ start, end }) => line.slice(start, end))).toEqual([
    'Gestern um 15 Uhr',
    'angerufen',
    '8 Lastenräder',
    'Donnerstag um 11 Uhr',
    'zurückrufen',
  ]);
});

describe('the call sheet parts facts, talk and follow-ups in them too', () => {
  const read = (note: string) =>
    readCallSheet(note, { at: NOW, zone: 'Europe/London', country: 'DE', currency: 'EUR' });

  it.each([
    [
      'Frau Vogt, Bäckerei Sonne, will 8 Lastenräder, entscheidet allein. Am Donnerstag um 11 Uhr anrufen',
      'Entscheidet allein.',
      'Anrufen',
      '2026-11-26T11:00',
      8,
    ],
    [
      'Marie Blanc, Boulangerie du Lac, veut 8 vélos. Décide seule, rappeler jeudi à 11h',
      'Décide seule.',
      'Rappeler',
      '2026-11-26T11:00',
      8,
    ],
    [
      'Rosa Vidal de Flores Vidal, quiere 8 bicicletas, tiene dos tiendas, enviar presupuesto antes del miércoles',
      'Tiene dos tiendas.',
      'Enviar presupuesto',
      '2026-11-25T00:00',
      8,
    ],
    [
      'Rui Lopes da Padaria Sol quer 8 bicicletas, decide sozinho, ligar na quinta às 11h',
      'Decide sozinho.',
      'Ligar',
      '2026-11-26T11:00',
      8,
    ],
    [
      'Anna Conti del Forno Conti vuole 8 bici, ha due negozi, richiamare giovedì alle 11',
      'Ha due negozi.',
      'Richiamare',
      '2026-11-26T11:00',
      8,
    ],
    [
      'Jan de Boer van Bakkerij de Boer wil 8 bakfietsen, beslist zelf, offerte sturen voor woensdag',
      'Beslist zelf.',
      'Offerte sturen',
      '2026-11-25T00:00',
      8,
    ],
    [
      'Kari Nord fra Nord Bakeri vil ha 8 sykler, bestemmer selv, sende tilbud innen onsdag',
      'Bestemmer selv.',
      'Sende tilbud',
      '2026-11-25T00:00',
      8,
    ],
  ])('“%s”', (note, background, title, due, quantity) => {
    const sheet = read(note);
    expect(sheet.background).toBe(background);
    expect(sheet.moves.map((move) => [move.title, move.dueAt.slice(0, 16)])).toEqual([[title, due]]);
    expect(sheet.deal?.quantity).toBe(quantity);
    expect(sheet.said).not.toContain(background.slice(0, -1));
  });

  it('a range of hours ends, and nothing that was wanted is lost from what was said', () => {
    const sheet = read('Frau Vogt, Bäckerei Sonne, will 8 Lastenräder. Termin am 3. Dezember 14 bis 15 Uhr');
    expect(sheet.moves.map(({ dueAt, endAt }) => [dueAt, endAt])).toEqual([
      ['2026-12-03T14:00:00+00:00', '2026-12-03T15:00:00+00:00'],
    ]);
    expect(sheet.said).toContain('8 Lastenräder');
  });
});
