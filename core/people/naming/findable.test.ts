import fc from 'fast-check';
import { fold } from '../text';
import { partedTerms, soughtSpellings, spellingsOf } from './findable';

/** Whether what was typed finds a word that stands in a record, by its spelling or as a form of the name. */
function finds(typed: string, stands: string): boolean {
  const { whole, forms, beginnings } = soughtSpellings(fold(typed));
  return spellingsOf(fold(stands)).some(
    (spelling) =>
      whole.includes(spelling) ||
      forms.includes(spelling) ||
      beginnings.some((beginning) => spelling.startsWith(beginning)),
  );
}

describe('a word of a name is found', () => {
  // Spellings by the schemes named in docs/matching.md; readings of kanji by the IPA dictionary.
  it.each([
    ['orlova', 'Орлова'],
    ['orl', 'Орлова'],
    ['Орлова', 'Orlova'],
    ['semyonov', 'Семенов'],
    ['semenov', 'Семёнов'],
    ['semyonov', 'Semenov'],
    ['yuliya', 'Юлия'],
    ['julia', 'Юлия'],
    ['papadopoulos', 'Παπαδόπουλος'],
    ['hashimoto', '橋本'],
    ['yoko', '陽子'],
    ['yoko', 'ようこ'],
    ['hasegawa', 'はせがわ'],
    ['hasegawa', 'ハセガワ'],
    ['橋本', 'Hashimoto'],
    ['はしもと', 'Hashimoto'],
    ['wang', '王'],
    ['xiaoming', '小明'],
    ['kim', '김'],
    ['gim', '김'],
    ['minsu', '민수'],
    ['김', 'Kim'],
    ['hashimoto', '橋本陽子'],
    ['yoko', '橋本陽子'],
    ['min', '김민수'],
    ['mohammed', 'محمد'],
    ['محمد', 'Muhammad'],
    ['mueller', 'Müller'],
    ['mueller', 'Muller'],
    ['muller', 'Mueller'],
    ['müller', 'Mueller'],
    ['bob', 'Robert'],
    ['robert', 'Bob'],
    ['misha', 'Михаил'],
    ['миша', 'Mikhail'],
  ])('%s finds %s', (typed, stands) => {
    expect(finds(typed, stands)).toBe(true);
  });

  it.each([
    ['orlova', 'Соколова'],
    ['hasegawa', 'はせかわ'],
    ['hashimoto', '橋口'],
    ['mueller', 'Miller'],
    ['bob', 'William'],
    ['smith', 'Smeaton'],
    ['maria', 'Marek'],
    ['42', '42nd'],
    ['a', 'Anna'],
  ])('%s does not find %s', (typed, stands) => {
    expect(finds(typed, stands)).toBe(false);
  });

  it('but what is too long for a name is spelt no other way', () => {
    for (const word of ['橋'.repeat(300), 'е'.repeat(300), 'ü'.repeat(300)]) {
      expect(spellingsOf(fold(word))).toEqual([]);
      expect(soughtSpellings(fold(word))).toEqual({ whole: [], forms: [], beginnings: [] });
    }
    const longest = ['橋', 'ж', 'щ', '김', 'ξ'].flatMap((letter) => spellingsOf(fold(letter.repeat(40))));
    expect(Math.max(...longest.map((spelling) => spelling.length))).toBeLessThan(400);
  });

  it('by itself in small letters of its own script, whatever is written', () => {
    const word = fc
      .string({ unit: 'grapheme', minLength: 1, maxLength: 12 })
      .map((text) => fold(text).replace(/ /g, ''));
    fc.assert(
      fc.property(word, (text) => {
        const [stands, { whole }] = [spellingsOf(text), soughtSpellings(text)];
        expect(stands.every((spelling) => spelling !== '' && !/\s/.test(spelling))).toBe(true);
        if (whole.length) expect(stands.some((spelling) => whole.includes(spelling))).toBe(true);
      }),
      { numRuns: 1000 },
    );
  });

  it('in both orders, where a name is written without a space', () => {
    expect(partedTerms(['橋本陽子'])).toEqual(['橋本', '陽子']);
    expect(partedTerms(['김민수'])).toEqual(['김', '민수']);
    expect(partedTerms(['orlova', '橋本'])).toEqual(['orlova', '橋本']);
  });
});
