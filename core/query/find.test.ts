import fc from 'fast-check';
import { meantWords, rankHits, readSought, unslipped } from './find';

describe('what was typed into the find field', () => {
  it.each([
    ['  Inês  DUARTE ', ['ines', 'duarte']],
    ["O'Brien-Costa", ['obrien', 'costa']],
    ['ines@padaria', ['ines@padaria']],
    ['@padariasol.example', ['padariasol.example']],
    ['mailto:ines@padariasol.example', ['ines@padariasol.example']],
    ['Straße 7', ['strasse', '7']],
    ['%_', []],
    ['', []],
  ])('%j is words', (text, terms) => expect(readSought(text, 'GB').terms).toEqual(terms));
  it('may be an address or a domain when it is one word with a dot', () => {
    expect(readSought('ines.duarte', 'GB').address).toBe('ines.duarte');
    expect(readSought('padariasol.example', 'GB').address).toBe('padariasol.example');
    expect(readSought('St. Maarten', 'GB').address).toBeNull();
  });

  // Source: ITU-T E.164 and E.123; the numbers are of Ofcom's and ACMA's ranges for drama (from memory).
  it.each([
    ['07700 900123', 'GB', '+447700900123'],
    ['+44 (0)7700 900123', 'GB', '+447700900123'],
    ['0044 7700 900123', 'GB', '+447700900123'],
    ['447700900123', 'GB', '+447700900123'],
    ['0491 570 006', 'AU', '+61491570006'],
    ['(0491) 570-006', 'AU', '+61491570006'],
  ])('%s in %s is the number %s', (text, country, whole) => {
    const phone = readSought(text, country).phone;
    expect(phone?.starts.some((start) => whole.startsWith(start))).toBe(true);
  });
  it('is a number of another land too, when it is written as it is at home', () => {
    const phone = readSought('0912 345', 'GB').phone;
    expect(phone?.elsewhere).toContain('+351912345');
    expect(phone?.ending).toBe('543219');
  });
  it.each(['Duarte 7', '12', 'a1234'])('%s is no number', (text) =>
    expect(readSought(text, 'GB').phone).toBeNull(),
  );
  it('never fails and stays small, whatever was typed', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200, unit: 'grapheme' }), (text) => {
        const { terms } = readSought(text, 'GB');
        expect(terms.length).toBeLessThanOrEqual(6);
        expect(terms.every((term) => term.length > 0)).toBe(true);
      }),
    );
  });
});

describe('slips of the fingers', () => {
  const KNOWN = ['duarte', 'smith', 'smithson', 'brown', 'martha', 'marta', 'ana', 'quill'];
  it.each([
    ['duatre', 'duarte'],
    ['duartte', 'duarte'],
    ['durte', 'duarte'],
    ['dusrte', 'duarte'],
    ['smiht', 'smith'],
    ['duat', 'duarte'],
    ['mithso', 'smithson'],
    ['uill', 'quill'],
  ])('%s may stand for %s', (typed, word) => expect(meantWords(typed, KNOWN)).toContain(word));
  it('does not take short words for others', () => expect(meantWords('anb', KNOWN)).toEqual([]));
  it('undoes a change of two neighbours and a letter too many', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[a-z]{4,10}$/), fc.nat(8), (word, at) => {
        const turn = at % (word.length - 1);
        const turned = `${word.slice(0, turn)}${word[turn + 1] ?? ''}${word[turn] ?? ''}${word.slice(turn + 2)}`;
        if (turned !== word) expect(unslipped(turned)).toContain(word);
        const longer = `${word.slice(0, turn)}q${word.slice(turn)}`;
        if (longer !== word) expect(unslipped(longer)).toContain(word);
      }),
    );
  });
});

describe('the order of hits', () => {
  const hit = (label: string, over: Partial<Parameters<typeof rankHits>[0][number]> = {}) => ({
    kind: 'person',
    label,
    level: 1,
    score: null,
    inactive: false,
    ...over,
  });
  const order = (hits: ReturnType<typeof hit>[], limit = 10) => rankHits(hits, limit).map((hit) => hit.label);
  it('goes by match, then by what the rep worked with lately, then by name; the inactive come last', () =>
    expect(
      order([
        hit('gone', { level: 0, inactive: true, score: 700 }),
        hit('b'),
        hit('a'),
        hit('worked', { score: 690 }),
        hit('worked lately', { score: 692 }),
        hit('exact', { level: 0 }),
      ]),
    ).toEqual(['exact', 'worked lately', 'worked', 'a', 'b', 'gone']));
  it('lets no kind crowd out the others', () => {
    const people = Array.from({ length: 20 }, (_, at) => hit(`person ${at}`, { level: 0 }));
    const found = order([...people, hit('firm', { kind: 'company' }), hit('deal', { kind: 'deal' })], 6);
    expect(found).toHaveLength(6);
    expect(found).toEqual(expect.arrayContaining(['firm', 'deal']));
  });
  it('does not depend on the order it was given', () => {
    const hits = [hit('a'), hit('b', { level: 0 }), hit('c', { score: 5 }), hit('d', { inactive: true })];
    fc.assert(
      fc.property(fc.shuffledSubarray(hits, { minLength: 4 }), (shuffled) =>
        expect(order(shuffled)).toEqual(order(hits)),
      ),
    );
  });
});
