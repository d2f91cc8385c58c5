import { isNews, type Statement } from './consent';
import { covers } from './coverage';
import { languageOfCountry, PAGE_LANGUAGES, preferredLanguage, textsOf, withValues } from './pageTexts';

const said = (state: Statement['state'], more: Partial<Statement> = {}): Statement => ({
  state,
  words: '',
  places: null,
  ...more,
});

describe('a statement', () => {
  it.each([
    [null, said('withdrawn'), true],
    [said('agreed'), said('unconfirmed'), false],
    [said('agreed'), said('agreed'), false],
    [said('agreed', { words: 'News' }), said('agreed', { words: 'News and offers' }), true],
    [said('agreed', { words: 'News' }), said('agreed'), false],
    [said('withdrawn'), said('unconfirmed'), true],
    [said('unconfirmed'), said('unconfirmed'), false],
    [said('withdrawn'), said('withdrawn', { words: 'again' }), false],
    [said('unconfirmed'), said('agreed'), true],
  ])('after %j, %j is news: %s', (current, next, isOne) => {
    expect(isNews(current, next)).toBe(isOne);
  });

  it('for the same places in another order is none', () => {
    const codes = [
      { country: 'PT', code: '1' },
      { country: 'ES', code: '2' },
    ];
    const places = { codes, areas: ['a', 'b'] };
    const turned = { codes: [...codes].reverse(), areas: ['b', 'a'] };
    expect(isNews(said('agreed', { places }), said('agreed', { places: turned }))).toBe(false);
    expect(isNews(said('agreed', { places }), said('agreed', { places: { codes, areas: [] } }))).toBe(true);
  });
});

describe('places', () => {
  const square = new Map([['home', [0, 0, 2, 0, 2, 2, 0, 2]]]);
  const code = (country: string, value: string) => ({ at: null, postCode: { country, code: value } });

  it('cover a spot by the beginning of its post code, however that is written', () => {
    const places = { codes: [{ country: 'NL', code: '1012 AB' }], areas: [] };
    expect(covers(places, code('NL', '1012ab'), square)).toBe(true);
    expect(covers(places, code('NL', '1012 AC'), square)).toBe(false);
    expect(covers(places, code('BE', '1012 AB'), square)).toBe(false);
    expect(
      covers({ codes: [{ country: 'GB', code: 'SW1' }], areas: [] }, code('GB', 'sw1a-1aa'), square),
    ).toBe(true);
  });

  it('cover what lies in an area that still is one', () => {
    const places = { codes: [], areas: ['home', 'retired'] };
    expect(covers(places, { at: [1, 1], postCode: null }, square)).toBe(true);
    expect(covers(places, { at: [3, 1], postCode: null }, square)).toBe(false);
    expect(covers(places, { at: null, postCode: null }, square)).toBe(false);
    expect(covers({ codes: [], areas: ['retired'] }, { at: [1, 1], postCode: null }, square)).toBe(false);
  });

  it('are everywhere where none is named', () => {
    expect(covers(null, { at: null, postCode: null }, square)).toBe(true);
    expect(covers({ codes: [], areas: [] }, { at: [99, 9], postCode: null }, square)).toBe(true);
  });
});

describe('the language of the page', () => {
  it('is the one the browser likes best of ours (RFC 9110, 12.5.4)', () => {
    expect(preferredLanguage('da, en-gb;q=0.8, en;q=0.7')).toBe('en');
    expect(preferredLanguage('fr-CH, de;q=0.9')).toBe('fr');
    expect(preferredLanguage('de;q=0, nl;q=0.1')).toBe('nl');
    expect(preferredLanguage('*, xx')).toBeNull();
    expect(preferredLanguage('constructor')).toBeNull();
    expect(preferredLanguage(`${'en,'.repeat(100_000)}`)).toBe('en');
    expect([languageOfCountry('BR'), languageOfCountry('JP')]).toEqual(['pt', 'en']);
  });

  it('says everything, with every value in its place', () => {
    const places = (text: string): string[] => [...text.matchAll(/\{\w+\}/g)].map(([name]) => name).sort();
    for (const { code } of PAGE_LANGUAGES)
      for (const [key, text] of Object.entries(textsOf(code)))
        expect([code, key, text !== '', places(text)]).toEqual([
          ...[code, key, true],
          places(textsOf('en')[key as keyof ReturnType<typeof textsOf>]),
        ]);
    expect(withValues('{a} and {b}', { a: '{b}', c: '1' })).toBe('{b} and {b}');
  });
});
