import { askRecords } from '@emporikon/core/query/ask';
import { readFile, stat } from 'node:fs/promises';

const MOST_BYTES = 256 * 1024 * 1024;

/** @throws Error that names the line */
function readLines(text: string): Record<string, unknown>[] {
  return text.split('\n').flatMap((line, at) => {
    if (!line.trim()) return [];
    try {
      const record: unknown = JSON.parse(line);
      if (typeof record === 'object' && record !== null && 'id' in record)
        return [record as Record<string, unknown>];
    } catch {
      // It is told below, with the number of the line.
    }
    throw new Error(`line ${at + 1} is no record in JSON with an id`);
  });
}

/**
 * Prints what a question in plain words finds in records.
 * @returns the exit code: 0 answered, 1 the file was refused, 2 wrong use
 */
export async function runAsk(args: readonly string[], at: string, usage: string): Promise<number> {
  const wanted = { at, me: null as string | null };
  const words: string[] = [];
  let [json, file] = [false, ''];
  const wrong = (text: string): number => {
    process.stderr.write(`emporikon ask: ${text}\n${usage}`);
    return 2;
  };
  for (let index = 0; index < args.length; index++) {
    const word = args[index] ?? '';
    if (word === '--json') json = true;
    else if (word === '--in') file = args[++index] ?? '';
    else if (word === '--me') wanted.me = args[++index] ?? null;
    else if (word === '--at') {
      wanted.at = args[++index] ?? '';
      if (Number.isNaN(Date.parse(wanted.at)))
        return wrong('--at needs a time such as 2026-11-24T10:00:00+00:00');
    } else if (word.startsWith('--')) return wrong(`no such option ${word}`);
    else words.push(word);
  }
  if (!file) return wrong('in which file? --in FILE.jsonl');
  if (!words.length) return wrong('what is the question?');
  try {
    const { size } = await stat(file);
    if (size > MOST_BYTES) throw new Error(`it is larger than ${MOST_BYTES / 1024 / 1024} MB`);
    const answer = askRecords(words.join(' '), readLines(await readFile(file, 'utf8')), wanted);
    const { ids, notUnderstood } = answer;
    const missed = notUnderstood.length ? `not understood, and left out: ${notUnderstood.join(' · ')}\n` : '';
    process.stdout.write(
      json
        ? `${JSON.stringify(answer)}\n`
        : `${missed}${ids.length} found\n${ids.map((id) => `${id}\n`).join('')}`,
    );
    return 0;
  } catch (error) {
    process.stderr.write(
      `emporikon ask: ${file}: ${error instanceof Error ? error.message : String(error)}\n`,
    );
    return 1;
  }
}
