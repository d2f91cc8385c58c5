import { readFile, stat } from 'node:fs/promises';
import { readExchange } from '@emporikon/core/ledger/exchange';
import { MAX_MESSAGE_BYTES } from '@emporikon/core/reading/types';

interface Options {
  ours: string[];
  at: string;
}
/** A mailbox file holds many messages. */
const MOST_BYTES = 4 * MAX_MESSAGE_BYTES;

async function turnIn(file: string, options: Options): Promise<Record<string, string | null>> {
  try {
    const { size } = await stat(file);
    if (size > MOST_BYTES) return { file, error: `larger than ${MOST_BYTES / 1024 / 1024} MB` };
    const { turn, since, because } = await readExchange(await readFile(file), options);
    return { file, turn, since, why: because };
  } catch (error) {
    return { file, error: error instanceof Error ? error.message : String(error) };
  }
}

const asLine = ({ file, turn, since, why, error }: Record<string, string | null>): string =>
  error ? `${file}: ${error}` : `${file}: ${turn}${since ? ` since ${since}` : ''}, ${why}`;

/**
 * Prints whose turn it is in each exchange.
 * @returns the exit code: 0 all read, 1 a file was refused, 2 wrong use
 */
export async function runTurn(args: readonly string[], defaults: Options, usage: string): Promise<number> {
  const options = { ...defaults };
  const files: string[] = [];
  let json = false;
  const wrong = (text: string): number => {
    process.stderr.write(`emporikon turn: ${text}\n${usage}`);
    return 2;
  };
  for (let index = 0; index < args.length; index++) {
    const word = args[index] ?? '';
    if (word === '--json') json = true;
    else if (word === '--ours') options.ours = (args[++index] ?? '').toLowerCase().split(',').filter(Boolean);
    else if (word === '--at') {
      options.at = args[++index] ?? '';
      if (Number.isNaN(Date.parse(options.at)))
        return wrong('--at needs a time such as 2026-11-24T10:00:00+00:00');
    } else if (word.startsWith('--')) return wrong(`no such option ${word}`);
    else files.push(word);
  }
  if (!files.length) return wrong('which file?');
  let code = 0;
  for (const file of files) {
    const answer = await turnIn(file, options);
    if (answer.error) code = 1;
    process.stdout.write(`${json ? JSON.stringify(answer) : asLine(answer)}\n`);
  }
  return code;
}
