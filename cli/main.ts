import { readFile, stat } from 'node:fs/promises';
import { readEmail } from '@emporikon/core/reading/email/read';
import { MAX_MESSAGE_BYTES, type Claim, type Intent, type Reading } from '@emporikon/core/reading/types';

const USAGE = `emporikon: reads what prospects send

  emporikon read [--json] [--ours DOMAIN[,DOMAIN]] FILE…
      reads email files; one line a file, or one JSON object a line
      --ours   our own domains, so that what colleagues hand on is read as the original sender's
               (otherwise EMPORIKON_OURS, otherwise wharfside.example)
`;

interface Read {
  file: string;
  kind: Reading['kind'] | 'refused';
  claims: Claim[];
  intents: Intent[];
  notices: string[];
  error?: string;
}

const refused = (file: string, error: string): Read => ({
  file,
  kind: 'refused',
  claims: [],
  intents: [],
  notices: [],
  error,
});

async function readFileAs(file: string, ours: string[]): Promise<Read> {
  try {
    const { size } = await stat(file);
    if (size > MAX_MESSAGE_BYTES) return refused(file, `larger than ${MAX_MESSAGE_BYTES / 1024 / 1024} MB`);
    const { kind, claims, intents, notices } = await readEmail(await readFile(file), {
      ours,
      receivedAt: new Date().toISOString(),
    });
    return { file, kind, claims, intents, notices };
  } catch (error) {
    return refused(file, error instanceof Error ? error.message : String(error));
  }
}

const asLine = (read: Read): string =>
  read.error
    ? `${read.file}: ${read.error}`
    : `${read.file}: ${[...read.claims.map((claim) => `${claim.field}=${claim.normalized ?? claim.value}`), ...read.intents.map((intent) => `${intent.kind}=${intent.text}`)].join(' | ')}`;

/**
 * The command line.
 * @param args what stands after the command's name
 * @returns the exit code: 0 all read, 1 a file was refused, 2 wrong use
 */
export async function main(args: readonly string[]): Promise<number> {
  const [command, ...rest] = args;
  if (command !== 'read') {
    process.stderr.write(USAGE);
    return command === undefined || command === '--help' ? 0 : 2;
  }
  let json = false;
  let ours = (process.env.EMPORIKON_OURS ?? 'wharfside.example').split(',').filter(Boolean);
  const files: string[] = [];
  for (let at = 0; at < rest.length; at++) {
    const word = rest[at] ?? '';
    if (word === '--json') json = true;
    else if (word === '--ours') ours = (rest[++at] ?? '').toLowerCase().split(',').filter(Boolean);
    else if (word.startsWith('--') && word.length > 2) {
      process.stderr.write(`emporikon read: no such option ${word}\n${USAGE}`);
      return 2;
    } else files.push(word);
  }
  if (!files.length) {
    process.stderr.write(`emporikon read: which file?\n${USAGE}`);
    return 2;
  }
  let code = 0;
  for (const file of files) {
    const read = await readFileAs(file, ours);
    if (read.error) code = 1;
    process.stdout.write(`${json ? JSON.stringify(read) : asLine(read)}\n`);
  }
  return code;
}
