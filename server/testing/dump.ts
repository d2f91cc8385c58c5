import { execFileSync } from 'node:child_process';
import { databaseUrl } from './harness';

/** How a dump writes bytes. */
const hexOf = (text: string): string => Buffer.from(text).toString('hex');

/** Everything that is in the database of the tests, as `pg_dump` writes it, in small letters. */
export const dump = (): string =>
  execFileSync('/usr/bin/pg_dump', [databaseUrl()], {
    encoding: 'utf8',
    maxBuffer: 512 * 1024 * 1024,
  }).toLowerCase();

/** The lines of a dump in which one of some words stands, as text or as bytes, each with its table. */
export function linesTelling(text: string, words: readonly string[]): string[] {
  const forms = words.flatMap((word) => [
    word,
    ...[word, word.toUpperCase(), `${word.slice(0, 1).toUpperCase()}${word.slice(1)}`].map(hexOf),
  ]);
  let table = '';
  return text.split('\n').flatMap((line) => {
    if (line.startsWith('copy ')) table = line.split(' ')[1] ?? '';
    const form = forms.find((one) => line.includes(one));
    return form
      ? [`${table}: ${line.slice(Math.max(0, line.indexOf(form) - 80), line.indexOf(form) + 80)}`]
      : [];
  });
}
