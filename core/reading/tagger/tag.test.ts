import { readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { featuresOf } from './features';
import { tagNote } from './tag';
import { tokensOf } from './tokens';
import { noteMaker } from './training/generate';

const found = (text: string): string[] => tagNote(text).map(({ field, value }) => `${field}=${value}`);

describe('whom a note is about, by the model', () => {
  it.each([
    ['spoke w/ Orson Delby, Delby Cork, wants a quote', ['fullName=Orson Delby', 'companyName=Delby Cork']],
    ['orson delby delby cork rang', ['fullName=Orson Delby', 'companyName=Delby Cork']],
    [
      'Ruta Venn, head of fleet at Ashcombe Ferries',
      ['fullName=Ruta Venn', 'jobTitle=head of fleet', 'companyName=Ashcombe Ferries'],
    ],
    [
      'Telefonat mit Gunda Reese, Einkäuferin bei Reese Holzbau',
      ['fullName=Gunda Reese', 'jobTitle=Einkäuferin', 'companyName=Reese Holzbau'],
    ],
    ['appelé Maud Kerven (Kerven Voiles)', ['fullName=Maud Kerven', 'companyName=Kerven Voiles']],
    ['send the quote on friday', []],
    ['rappeler jeudi en huit', []],
    ['', []],
    ['12', []],
  ])('%s', (text, expected) => expect(found(text)).toEqual(expected));

  it('keeps where each stands', () => {
    const text = 'rang ORSON about Delby Cork. orson again';
    for (const { value, start, end } of tagNote(text))
      expect(text.slice(start, end).toLowerCase()).toBe(value.toLowerCase());
  });
  it('takes no longer for a long note, of which it sees the beginning', () => {
    expect(tokensOf('word '.repeat(50_000), 60)).toHaveLength(60);
    expect(tokensOf('(((('.repeat(10_000), 60)).toHaveLength(60);
  });
});

describe('the words of a note', () => {
  it('keep what belongs together, and part what ends a sentence', () => {
    expect(tokensOf("O'Hara & Co. rang. jo@x.example +44 20 7946 0101", 60).map(({ text }) => text)).toEqual([
      "O'Hara",
      '&',
      'Co.',
      'rang',
      '.',
      'jo@x.example',
      '+44 20 7946 0101',
    ]);
  });
  it('stand for themselves only where they are frequent', () => {
    const [first = []] = featuresOf(tokensOf('Zyxwa rang', 60), (word) => word === 'rang');
    expect(first).toContain('w1=rang');
    expect(first.some((name) => name.startsWith('w0='))).toBe(false);
  });
});

describe('the training', () => {
  it('makes the same notes from the same series, with what is in them marked', () => {
    const random = (): (() => number) => {
      let state = 3;
      return () => (state = (state * 16807) % 2147483647) / 2147483647;
    };
    const [make, again] = [noteMaker(random()), noteMaker(random())];
    const notes = Array.from({ length: 200 }, () => make());
    expect(Array.from({ length: 200 }, () => again())).toEqual(notes);
    for (const kind of ['fullName', 'companyName', 'jobTitle'] as const)
      expect(notes.filter((parts) => parts.some((part) => part.kind === kind)).length).toBeGreaterThan(20);
    expect(notes.some((parts) => parts.every((part) => part.kind === null))).toBe(true);
    expect(notes.flat().some(({ text }) => text.includes('{'))).toBe(false);
  });
  it('left weights of less than 1.5 MB, whole numbers all', () => {
    const path = join(__dirname, 'weights.json');
    expect(statSync(path).size).toBeLessThan(1_500_000);
    const { features } = JSON.parse(readFileSync(path, 'utf8')) as { features: Record<string, string> };
    expect(Object.values(features).every((values) => /^-?\d+(?: -?\d+){6}$/.test(values))).toBe(true);
  });
});
