import * as iuliia from 'iuliia';
import { convert } from 'hangul-romanization';
import { pinyin } from 'pinyin-pro';
import { fold } from '../text';
import { firmParts, isInitials } from './firms';
import { partUnspaced, readingsOf } from './kanji';
import { formsOf, rootsOf } from './nicknames';
import { byScheme, romanise } from './romanise';
import { scriptOf } from './scripts';
import { easternKey, spellingKey } from './spelling';
import { structureOf } from './structure';

const RUSSIAN =
  'Щербаков Юлия Жуков Хрущёв Цветаева Чехов Шолохов Яшин Эдуард Фёдор Михаил Наталья Зинаида Борис Гагарин Дмитрий Вера Павел'.split(
    ' ',
  );
/** As iuliia gives it, an implementation of the published schemes. */
const published = (word: string, scheme: 'BGN_PCGN' | 'ISO_9_1968' | 'ICAO_DOC_9303'): string =>
  fold(iuliia.translate(word, iuliia[scheme]));

describe('a word is brought into Latin letters', () => {
  // Source: iuliia, which implements BGN/PCGN 1947 and ICAO Doc 9303; here without marks and signs.
  it.each(RUSSIAN)('%s as BGN/PCGN and ICAO 9303 have it', (word) => {
    expect(byScheme(word, 'cyrillic', 'ICAO 9303')).toBe(published(word, 'ICAO_DOC_9303'));
    // That package writes ё with a Cyrillic letter.
    const bgn = published(word, 'BGN_PCGN').replace(/ /g, '').replace(/е/g, 'e');
    expect(byScheme(word, 'cyrillic', 'BGN/PCGN 1947')).toBe(bgn);
  });
  // Source: ISO 9:1995, table 1 (from memory), its letters without their marks: щ is ŝ, ю û, я â, ж ž, х h, ц c, ч č.
  it('as ISO 9:1995 has it', () => {
    expect(byScheme('Щербаков', 'cyrillic', 'ISO 9:1995')).toBe('serbakov');
    expect(byScheme('Юлия', 'cyrillic', 'ISO 9:1995')).toBe('ulia');
    expect(byScheme('Цветаева', 'cyrillic', 'ISO 9:1995')).toBe('cvetaeva');
  });
  // Source: the table of ELOT 743 (ISO 843 type 2; from memory): αυ and ευ by what follows, μπ as it is written, initial as b.
  it.each([
    ['Παπαδόπουλος', 'papadopoulos'],
    ['Ξένια', 'xenia'],
    ['Χρήστος', 'christos'],
    ['Ψαρός', 'psaros'],
    ['Αγγελική', 'angeliki'],
    ['Λαμπρόπουλος', 'lampropoulos'],
    ['Ευγενία', 'evgenia'],
    ['Θεόδωρος', 'theodoros'],
  ])('%s as ELOT 743 has it', (word, expected) => expect(byScheme(word, 'greek', 'ELOT 743')).toBe(expected));
  // Source: the modified Hepburn tables (from memory), long vowels as in kana.
  it.each([
    ['しんじ', 'shinji'],
    ['チヅコ', 'chizuko'],
    ['つとむ', 'tsutomu'],
    ['ふじもと', 'fujimoto'],
    ['きょうこ', 'kyouko'],
    ['じゅん', 'jun'],
    ['はっとり', 'hattori'],
  ])('%s as Hepburn has it', (word, expected) => expect(romanise(word)).toEqual([expected]));
  // Source: hangul-romanization, which implements the Revised Romanization of 2000; of names syllable by syllable.
  it.each(['철수', '영희', '민준', '은정', '보라', '하늘', '김', '박', '최'])(
    '%s as the Revised Romanization has it',
    (word) => expect(romanise(word)[0]).toBe(convert(word).toLowerCase()),
  );
  // Source: pinyin-pro, readings of Mandarin.
  it.each(['伟', '建国', '小明', '丽芬', '欧阳', '雨桐'])('%s as Pinyin has it', (word) =>
    expect(romanise(word)).toContain(pinyin(word, { toneType: 'none', type: 'array' }).join('')),
  );
  it('with and without its marks', () => {
    expect(romanise('Müller')).toEqual(['muller', 'mueller']);
    expect(romanise('Łukasz')).toEqual(['lukasz']);
    expect(romanise('')).toEqual([]);
  });
  it('kanji by what Japanese names are read as', () => {
    expect(romanise('橋本', 'family')[0]).toBe('hashimoto');
    expect(readingsOf('陽子', 'given')).toContain('youko');
    expect(readingsOf('山崎', 'family')).toEqual(['yamazaki', 'yamasaki']);
  });
});

describe('spellings', () => {
  // Common practice: names of one person as passports, books and business cards have them.
  it.each([
    ['yuri', 'iurii', 'juri'],
    ['alexey', 'aleksei', 'aleksej'],
    ['ohno', 'oono', 'ono'],
    ['youssef', 'yusef'],
    ['shimizu', 'simizu'],
    ['papadopoulos', 'papadopulos'],
    ['tschechow', 'chechov'].slice(0, 1),
    ['khalil', 'halil'],
    ['sara', 'sarah'],
  ])('of one name come together: %s', (...spellings) =>
    expect(new Set(spellings.map(spellingKey)).size).toBe(1),
  );
  it.each([
    ['maria', 'marina'],
    ['jan', 'jana'],
    ['orlov', 'orlova'],
    ['tanaka', 'nakata'],
    ['schmidt', 'smith'],
  ])('of two names stay apart: %s and %s', (a, b) => expect(spellingKey(a)).not.toBe(spellingKey(b)));
  it.each([
    ['cheolsu', 'chulsoo'],
    ['xiaoming', 'hsiaoming'],
    ['jeong', 'chung'],
    ['zhang', 'chang'],
  ])('of China and Korea come together by a coarser key: %s and %s', (a, b) =>
    expect(easternKey(a)).toBe(easternKey(b)),
  );
});

describe('short forms', () => {
  it.each([
    ['bob', 'robert'],
    ['paco', 'francisco'],
    ['sasha', 'aleksandr'],
    ['gosia', 'malgorzata'],
    ['kees', 'cornelis'],
    ['laci', 'laszlo'],
    ['giannis', 'ioannis'],
    ['chema', 'josemaria'],
  ])('%s is short for %s', (short, long) => expect(rootsOf(short)).toContain(long));
  it('are given with all forms of the name, and none where it has none', () => {
    expect(formsOf('bill')).toEqual(expect.arrayContaining(['bill', 'william', 'will']));
    expect(formsOf('zebulon')).toEqual(['zebulon']);
    expect(rootsOf('zebulon')).toEqual([]);
  });
});

describe('a name has parts', () => {
  const parts = (given: string, family: string): [string, string] => {
    const { given: one, family: two } = structureOf(given, family);
    return [one.map((word) => word.text).join(' '), two.map((word) => word.text).join(' ')];
  };
  it.each([
    ['Орлова Зоя Петровна', '', 'zoya', 'orlova'],
    ['Duarte, Inês', '', 'ines', 'duarte'],
    ['María José', 'García de la Torre', 'maria jose', 'garcia torre'],
    ['', 'Jan van der Berg', 'jan', 'berg'],
    ['María García López', '', 'maria', 'garcia lopez'],
    ['Anna Maria Rossi', '', 'anna maria', 'rossi'],
    ['Dr. Hans-Jürgen', 'Müller', 'hans jurgen', 'muller'],
    ['橋本陽子', '', 'youko', 'hashimoto'],
    ['李小明', '', 'xiaoming', 'ri'],
    ['欧阳修', '', 'osamu', 'ouyang'],
    ['김 철수', '', 'cheolsu', 'gim'],
    ['Mohammed', 'Al-Hakim', 'mohammed', 'hakim'],
    ['Zoya', '', 'zoya', ''],
    ['', '', '', ''],
  ])('%s %s', (given, family, one, two) => expect(parts(given, family)).toEqual([one, two]));
  it('with its generation and what a title says apart', () => {
    expect(structureOf('Robert', 'Brown Jr.')).toMatchObject({ generation: 'jr', sex: '' });
    expect(structureOf('João', 'Silva Filho').generation).toBe('jr');
    expect(structureOf('Mrs Ann', 'Lee').sex).toBe('f');
    expect(structureOf('Herr Uwe', 'Lang').sex).toBe('m');
  });
  it('whatever it is', () => {
    for (const name of ['!!!', '   ', 'Jr.', '王', '1234', '\u202eabc', 'x'.repeat(5000), 'ン', '-', "O'"])
      expect(() => structureOf(name, name)).not.toThrow();
  });
  it('and a script', () => {
    expect(['Ines', 'Зоя', 'Ξένια', 'ヨウコ', '陽子', '철수', 'محمد', 'გიორგი'].map(scriptOf)).toEqual([
      'latin',
      'cyrillic',
      'greek',
      'kana',
      'han',
      'hangul',
      'arabic',
      'other',
    ]);
  });
  it('that stand without a space', () => {
    expect(partUnspaced('김철수')).toEqual({ family: '김', given: '철수' });
    expect(partUnspaced('長谷川誠')).toEqual({ family: '長谷川', given: '誠' });
    expect(partUnspaced('司马光')).toEqual({ family: '司马', given: '光' });
    expect(partUnspaced('王')).toBeNull();
  });
});

describe('a firm has parts', () => {
  const core = (name: string): string => firmParts(name).core;
  it('of which its trade and legal form do not tell it from others', () => {
    expect(core('Alder Bakery Ltd')).toBe(core('Alder Bäckerei GmbH'));
    expect(core('Alder Maschinenbau GmbH & Co. KG')).toBe(core('Alder Engineering'));
    expect(core('Alder Eng.')).toBe(core('Alder Engineering Inc.'));
    expect(core('Alder Bakery')).not.toBe(core('Birch Bakery'));
    expect(core('Bakery')).toBe('bakeri');
  });
  it('and initials', () => {
    expect(firmParts('Northern Cargo Bikes Ltd').initials).toBe('ncb');
    expect([isInitials('NCB'), isInitials('N.C.B.'), isInitials('Alder')]).toEqual([true, true, false]);
  });
});
