import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fieldOfLabel } from '../reading/table/labels';
import { alternatives, wordsOf } from './compile';

const files = readdirSync(__dirname).filter((file) => file.endsWith('.json'));
const read = (file: string): Record<string, string[]> =>
  JSON.parse(readFileSync(join(__dirname, file), 'utf8')) as Record<string, string[]>;

describe.each(files)('the words of %s', (file) => {
  const kinds = Object.entries(read(file));

  test('each is a pattern that takes at least one letter', () => {
    for (const [kind, words] of kinds)
      for (const word of words) {
        const pattern = new RegExp(`^(?:${word})$`, 'iu');
        expect([kind, word, pattern.test('')]).toEqual([kind, word, false]);
      }
  });

  test('none stands twice under the same kind', () => {
    for (const [kind, words] of kinds) expect([kind, new Set(words).size]).toEqual([kind, words.length]);
  });
});

test('a kind takes its words from every language', () => {
  expect(wordsOf('valediction')).toEqual(
    expect.arrayContaining(['cheers', 'mfg', 'cdlt', 'mvg', 'a presto']),
  );
  expect(new RegExp(`^(?:${alternatives('streetEnding')})$`, 'iu').test('gracht')).toBe(true);
  expect(new RegExp(`^(?:${alternatives('goods')})$`, 'iu').test('bakfietsen')).toBe(true);
});

test('a heading is known however it is written', () => {
  for (const word of wordsOf('column.email'))
    expect([word, fieldOfLabel(word.toUpperCase())?.field]).toEqual([word, 'email']);
});
