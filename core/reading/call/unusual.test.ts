import { readNote } from './read';

const OPTIONS = { at: '2026-11-25T10:00:00+00:00', country: 'GB' };
const facts = (text: string): Record<string, string> =>
  Object.fromEntries(readNote(text, OPTIONS).claims.map((claim) => [claim.field, claim.value]));
const promises = (text: string): unknown[] =>
  readNote(text, OPTIONS).intents.flatMap((intent) =>
    intent.kind === 'promise' ? [[intent.value.by, intent.text, intent.value.due?.slice(0, 10) ?? null]] : [],
  );

// Notes of our own making, in habits of writing that are common practice.
describe('a note written in a hurry', () => {
  it('shortens "with", puts the firm in brackets and the title in a sentence of its own', () => {
    expect(
      facts(
        'Call w/ Dr. Helena Strauss (Stadtwerke Lüneburg) - back Monday. Procurement lead. Wants 25 trailers.',
      ),
    ).toMatchObject({
      fullName: 'Helena Strauss',
      companyName: 'Stadtwerke Lüneburg',
      jobTitle: 'Procurement lead',
    });
  });
  it('keeps the department in the title', () => {
    expect(facts('Rang Priya Nair (Head of Ops @ Couriers United) re: renewal')).toMatchObject({
      fullName: 'Priya Nair',
      jobTitle: 'Head of Ops',
      companyName: 'Couriers United',
    });
    expect(facts('Spoke to Lena Voss, director of Harbour Cycles, about hire')).toMatchObject({
      jobTitle: 'director',
      companyName: 'Harbour Cycles',
    });
  });
  it('has no capitals after what leads up to the name', () => {
    expect(
      facts("voicemail from tom o'brien, o'brien flowers, 0161 496 0777 - wants a test ride"),
    ).toMatchObject({
      fullName: "Tom O'Brien",
      companyName: "O'Brien Flowers",
    });
  });
  it('begins with the time', () => {
    expect(facts('15:20 phoned Gareth Pugh - operations director, Pugh & Daughters Removals')).toMatchObject({
      fullName: 'Gareth Pugh',
      jobTitle: 'operations director',
      companyName: 'Pugh & Daughters Removals',
    });
  });
  it('tells who does the second of two things', () => {
    expect(promises('He will check with the owner and call back next Wednesday')).toEqual([
      ['theirs', 'He will check with the owner', null],
      ['theirs', 'and call back next Wednesday', '2026-12-02'],
    ]);
  });
  it('ends a sentence behind a shortened month', () => {
    expect(promises("They can't decide until 9th Feb. Try him on 15 Feb. Deputy is away")).toEqual([
      ['ours', 'Try him on 15 Feb.', '2027-02-15'],
    ]);
  });
  it('puts the verb last, in German', () => {
    expect(promises('Braucht 6 Lastenräder ab April. Angebot bis Freitag schicken.')).toEqual([
      ['ours', 'Angebot bis Freitag schicken.', '2026-11-27'],
    ]);
  });
});

describe('whoever is named in more than one way', () => {
  it.each([
    ['left vm for Stan (Stan Kowalczyk, ops mgr, Peak Parcels)', 'Stan Kowalczyk'],
    ['met Luis at the trade fair in Porto, Luis Carvalho, works for Mercado Azul', 'Luis Carvalho'],
    ['Habe mit der Chefin von Blumen Wagner gesprochen, heißt Petra Wagner, braucht 3 Räder', 'Petra Wagner'],
    ["j'ai eu Thierry au téléphone, de chez Transports Roussel", 'Thierry'],
  ])('%s', (text, name) => expect(facts(text).fullName).toBe(name));

  it('an honorific and the post of somebody else are not theirs', () => {
    const { fullName, jobTitle } = facts('falei com a Dona Graça Moniz, gerente da Padaria Central');
    expect([fullName, jobTitle]).not.toContain('Dona');
    expect(fullName).toBe('Graça Moniz');
    expect(facts('Tues 10:30 meeting w/ Halcyon Print').fullName).toBeUndefined();
    expect(facts('rang Dr. Anselm Pickering. his secretary Jo took msg').jobTitle).toBeUndefined();
  });

  it('the word for a firm is none of its name', () =>
    expect(facts('Hr. Lehmann (Fa. Lehmann & Sohn) bittet um Rückruf').companyName).toBe('Lehmann & Sohn'));
  it('a family name with particles stays whole, and the firm behind it is the firm', () =>
    expect(facts('Sr. Joaquim da Silva Prates, Talho Prates, 910 000 123')).toMatchObject({
      fullName: 'Joaquim da Silva Prates',
      companyName: 'Talho Prates',
    }));
  it('what a label says is a firm is nobody’s name', () => {
    const { fullName, companyName } = facts("caller wouldn't give name. Company: Delta Marine");
    expect([fullName, companyName]).toEqual([undefined, 'Delta Marine']);
  });

  it.each([
    ['sunita rao marlow pharmacies tues 1 dec half nine', 'companyName', 'Marlow Pharmacies'],
    ['solange petit mairie de corval huit triporteurs', 'companyName', 'Mairie de Corval'],
    ['die frau moosbacher vom gasthof alpenblick, resi moosbacher, samstag', 'fullName', 'Resi Moosbacher'],
    ['maxence brunel directeur des opérations clinique des tilleuls', 'jobTitle', 'directeur des opérations'],
    ['maxence brunel directeur des opérations clinique des tilleuls', 'companyName', 'Clinique des Tilleuls'],
    ['rowena ashdown, head of estates, beacon hospice', 'jobTitle', 'head of estates'],
  ] as const)('%s: the %s ends where it ends', (text, field, value) =>
    expect(facts(text)[field]).toBe(value),
  );

  it.each([
    'spoke to the receptionist at Northgate Veterinary Group, decision maker is a Hattie Lockwood',
    'Annegret Polle, Gärtnerei Polle, ruft selber an wenn der Chef aus dem Urlaub ist',
    'Tilo Brandis, Brandis Kurierdienst. Entscheidung fällt im Vorstand',
    'Tom Bright, Bright Foods. the owner has to agree',
    'Sadie Hollins who does purchasing at The Crooked Spire Brewery',
  ])('whoever else is spoken of is no title: %s', (text) => expect(facts(text).jobTitle).toBeUndefined());

  it.each([
    [
      'okay so i just spoke to judith marlowe she’s the office manager at bellwether architects',
      'Judith Marlowe',
    ],
    ['note to self ring colin trask at trask ironworks about the flatbed', 'Colin Trask'],
    [
      'also ich hab gerade mit cornelia wachter gesprochen stationsleitung klinikum rabenau',
      'Cornelia Wachter',
    ],
    ['bueno he hablado con fermín olabarri de talleres olabarri que lo piensa', 'Fermín Olabarri'],
    ['Desmond (Pyke) from Pyke Pets texted me', 'Desmond Pyke'],
    ['wayne from catterall concrete (wayne catterall) wants one trailer', 'Wayne Catterall'],
    ['reuben asher asher antiques moving premises 7 dec', 'Reuben Asher'],
  ])('is named as it is dictated: %s', (text, name) => expect(facts(text).fullName).toBe(name));

  it.each([
    ["Tom Bright, Bright Foods. He's the owner.", 'owner'],
    ['Anna Berg, Berg Holzbau, sie ist die Inhaberin', 'Inhaberin'],
    ['Léa Roux, Roux Fleurs, c’est la gérante', 'gérante'],
    ['Ann Moss is the manager at Bright Foods', 'manager'],
  ])('a post that is said of them is theirs: %s', (text, title) => expect(facts(text).jobTitle).toBe(title));

  it.each([
    ['spoke to June Ashby, Ashby Foods', 'June Ashby'],
    ['Domingo Pérez, Frutas Pérez', 'Domingo Pérez'],
    ['Noël Lemoine, Transports Lemoine', 'Noël Lemoine'],
    ['Chase Miller from Miller Freight', 'Chase Miller'],
    ['Will Harper at Harper Lifts', 'Will Harper'],
    ['Chase invoice for Miller Freight', undefined],
    ['June delivery for Ashby Foods', undefined],
  ])('a name that is a word as well is one before a family name: %s', (text, name) =>
    expect(facts(text).fullName).toBe(name),
  );

  it.each(['Christmas Eve', 'CHF 500', 'Termin Mi', 'Try Friday', 'Come back Thursday'])(
    'nobody is called %s',
    (text) => expect(facts(text).fullName).toBeUndefined(),
  );

  it('a firm that stands first is the firm, and a name that is a trade is a name', () => {
    expect(facts('Eisdiele Venezia (Marco Bianchi) - Angebot über 1 Rad')).toMatchObject({
      fullName: 'Marco Bianchi',
      companyName: 'Eisdiele Venezia',
    });
    expect(facts('gesproken met Femke Bakker, eigenaar Bloemenhuis Bakker').fullName).toBe('Femke Bakker');
    expect(facts('Anruf von Anna Koch, Koch Catering').fullName).toBe('Anna Koch');
  });

  it('the day of the note itself is no appointment', () => {
    const dates = (text: string): string[] =>
      readNote(text, OPTIONS).intents.flatMap((intent) =>
        intent.kind === 'date' ? [intent.value.at.slice(0, 10)] : [],
      );
    expect(dates('Telefonat 25.11., Herr Kallweit, Angebot bis 2.12.')).toEqual(['2026-12-02']);
    expect(dates('ring again today')).toEqual(['2026-11-25']);
  });

  it('about so many are a count', () => {
    const counts = readNote('Thierry, Transports Roussel, une dizaine de remorques', OPTIONS).intents.flatMap(
      (intent) => (intent.kind === 'quantity' ? [intent.value] : []),
    );
    expect(counts).toEqual([{ count: 10, of: 'remorques' }]);
  });
});
