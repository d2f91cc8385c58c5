import fc from 'fast-check';
import { PairComparer } from './pairs';
import { featuresOf, HEAD, type Row } from './testing';
import { FEATURE_NAMES, FEATURES } from './vector';

describe('a comparison', () => {
  /** What is known of two rows, by name, without what is nothing. */
  function known(a: Row, b: Row, head = HEAD): Record<string, number> {
    const features = featuresOf(
      [a, b, ['9', 'Zoë', 'Quill', 'z@q.example', '+999 1 1234567', 'Quill', 'Q1 1QQ', 'Quay']],
      head,
    );
    const out = new Float64Array(FEATURES);
    new PairComparer(features).compare(0, 1, out);
    return Object.fromEntries(FEATURE_NAMES.flatMap((name, at) => (out[at] ? [[name, out[at]]] : [])));
  }
  const names = (a: [string, string], b: [string, string]): string[] =>
    Object.keys(known(['1', ...a, '', '', '', '', ''], ['2', ...b, '', '', '', '', ''])).filter((name) =>
      /^(?:given|family): |swapped|otherGeneration/.test(name),
    );
  it('sees marks, legal forms and any written form of a number', () => {
    const said = known(
      [
        '1',
        'Robert',
        'Müller',
        'bob@muller.example',
        '+44 20 7946 0123',
        'Müller Foods Ltd',
        'A1 1AA',
        'Ashcombe',
      ],
      ['2', 'Bob', 'Mueller', 'info@muller.example', '(020) 7946-0123', 'Müller Foods', 'a11aa', 'ashcombe'],
    );
    expect(Object.keys(said)).toEqual(
      expect.arrayContaining(['given: short', 'family: spelling', 'numberSame', 'firm1']),
    );
    expect(said).toMatchObject({ placeAgreements: 4 });
  });
  it.each<[string, [string, string], [string, string], string[]]>([
    ['in Cyrillic', ['Зоя', 'Орлова'], ['Zoya', 'Orlova'], ['given: same', 'family: same']],
    [
      'by another romanisation',
      ['Yuri', 'Shcherbakov'],
      ['Iurii', 'Schtscherbakow'],
      ['given: spelling', 'family: spelling'],
    ],
    ['in Greek', ['Ξένια', 'Παπαδοπούλου'], ['Xenia', 'Papadopoulou'], ['given: same', 'family: same']],
    [
      'in kanji, family name first and unparted',
      ['橋本陽子', ''],
      ['Yoko', 'Hashimoto'],
      ['given: spelling', 'family: same'],
    ],
    ['in kana', ['ハシモト ヨウコ', ''], ['Yohko', 'Hashimoto'], ['given: spelling', 'family: same']],
    ['in Hangul', ['김철수', ''], ['Chul-soo', 'Kim'], ['given: short', 'family: spelling']],
    ['in Chinese, and by another scheme', ['张伟', ''], ['Wei', 'Cheung'], ['given: same', 'family: short']],
    ['in Arabic', ['محمد', 'الحكيم'], ['Mohammed', 'Al-Hakim'], ['given: spelling', 'family: spelling']],
    ['swapped', ['Ines', 'Duarte'], ['Duarte', 'Inês'], ['given: same', 'family: same', 'swapped']],
    [
      'in one column, family name first',
      ['Duarte, Ines', ''],
      ['Ines', 'Duarte'],
      ['given: same', 'family: same'],
    ],
    ['as an initial', ['I.', 'Duarte'], ['Ines', 'Duarte'], ['given: initial', 'family: same']],
    [
      'with one of two family names',
      ['María', 'García López'],
      ['María', 'García'],
      ['given: same', 'family: part'],
    ],
    [
      'with another second family name',
      ['María', 'García López'],
      ['María', 'García Pérez'],
      ['given: same', 'family: partly'],
    ],
    [
      'with particles joined',
      ['Jan', 'van der Berg'],
      ['Jan', 'Vanderberg'],
      ['given: same', 'family: spelling'],
    ],
    [
      'of father and son',
      ['Robert', 'Brown Sr.'],
      ['Robert', 'Brown Jr'],
      ['given: same', 'family: same', 'otherGeneration'],
    ],
    ['of two brothers', ['Viktor', 'Orlov'], ['Anton', 'Orlov'], ['given: differs', 'family: same']],
  ])('sees a name %s', (_, one, other, expected) => {
    expect(names(one, other).sort()).toEqual([...expected].sort());
    expect(names(other, one).sort()).toEqual([...expected].sort());
  });
  it('sees firms translated, shortened and by their initials', () => {
    const firm = (one: string, other: string): string =>
      Object.keys(known(['1', 'A', 'B', '', '', one, '', ''], ['2', 'A', 'B', '', '', other, '', ''])).find(
        (name) => /^firm/.test(name),
      ) ?? '';
    expect(firm('Alder Bakery Ltd', 'Alder Bäckerei GmbH')).toBe('firm2');
    expect(firm('Alder Transport', 'Alder Transp.')).toBe('firm2');
    expect(firm('Northern Cargo Bikes Ltd', 'NCB')).toBe('firm5');
    expect(firm('Alder Bakery', 'Birch Bakery')).toBe('firm6');
  });
  it('is the same in either order', () => {
    const cell = (...values: string[]) => fc.constantFrom('', ...values);
    const row = fc.tuple(
      cell('Robert', 'Bob', 'B.', 'Rob', 'Ines', 'Duarte', 'Зоя', '陽子', 'Jean-Pierre', 'Chul Soo'),
      cell(
        'Duarte',
        'Duerte',
        'Smith',
        'Smyth',
        'Smith-Jones',
        'Ines',
        'Орлова',
        '橋本',
        'van der Berg',
        'Kim Jr.',
      ),
      cell('bob@a.example', 'bob@b.example', 'info@a.example', 'bobb@a.example', 'zoya.orlova@a.example'),
      cell('020 7946 0123', '+44 20 7946 0124', '07700 900123'),
      cell('Sol Ltd', 'Sol', 'Sol Bakery', 'Luna'),
      cell('A1 1AA', 'A1 1AB', 'Z9 9ZZ'),
      cell('Ashcombe', 'Ascombe', 'Foxley'),
    );
    fc.assert(
      fc.property(row, row, (a, b) =>
        expect(known(['1', ...a], ['2', ...b])).toEqual(known(['1', ...b], ['2', ...a])),
      ),
      { numRuns: 300 },
    );
  });
});
