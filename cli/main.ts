import { readFile, stat } from 'node:fs/promises';
import { matchFile } from './match';
import { runAsk } from './ask';
import type { KeepCommand } from './keep';
import { runTurn } from './turn';
import { kindOfFile, plainIntent, readThing, type FileKind } from '@emporikon/core/reading/read';
import { MAX_MESSAGE_BYTES, type Claim } from '@emporikon/core/reading/types';

const USAGE = `emporikon: reads what prospects send, and tells who is who

  emporikon read [--json] [--at ISO-TIME] [--country CC] [--ours DOMAIN[,DOMAIN]] FILE…
      reads .eml (email), .html (web page), .vcf (cards), .txt (note of a call), .csv and .xlsx (tables);
      one line a file, or one JSON object a line
      --at       the time that "next Tuesday" counts from where a thing has none of its own (otherwise now)
      --country  whose numbers are written without a country code, as GB or PT
      --ours     our own domains, so that what colleagues hand on is read as the original sender's
                 (otherwise EMPORIKON_OURS, otherwise wharfside.example)

  emporikon turn [--json] [--ours DOMAIN[,DOMAIN]] [--at ISO-TIME] FILE…
      says who owes the next word in an exchange: .mbox (mail), or .jsonl, a line an entry: {"at", "side": "ours" or
      "theirs", "kind": "mail", "call", "meeting", "visit", "form", "note", "task" or "quote", "text", and where known
      "outcome": "spoke", "no answer", "voicemail" or "moved", "from", "subject", "headers"}
      --at       what was said later does not count (otherwise now)

  emporikon ask [--json] --in FILE.jsonl [--at ISO-TIME] [--me NAME] WORDS…
      finds the records that a question in plain words is about: "prospects in portugal not spoken to since june, by owner";
      a line a record: {"id", "kind": "person", "company", "lead", "deal" or "task", "fullName", "standing", "owner", …}
      (docs/queries.md); says what it did not understand, and leaves it out
      --json     prints {"conditions", "groups", "order", "notUnderstood", "ids"}
      --at       when the question is asked (otherwise now); days begin in its zone
      --me       whom "I" and "my" stand for, as in "owner"

  emporikon match [--out PAIRS.csv] FILE.csv
      prints id_a,id_b,probability for pairs of rows that may be the same person, surest first; the columns are told by
      their headings and their values, and a row without an id goes by its number
      --out      writes the pairs to a file and says how many there are

  emporikon backup FILE
      writes all records and the secret that seals passwords to one file, from a running database, and checks it by
      restoring it into a scratch database; EMPORIKON_PASSPHRASE encrypts it (docs/operating.md)

  emporikon restore FILE
      restores a backup into the empty database of DATABASE_URL

  emporikon archive FILE.tar.gz
      writes everything of a running database in open formats: a table a file of JSON Lines, the originals and files as
      they came in, and a manifest with the SHA-256 of each (docs/operating.md); accounts with their hashed passwords too

  emporikon unarchive FILE.tar.gz
      checks an archive against its manifest and puts all of it into the empty database of DATABASE_URL
`;

const KEEPING = new Set(['backup', 'restore', 'archive', 'unarchive']);

interface Read {
  file: string;
  kind: FileKind | 'refused';
  claims: Claim[];
  intents: Record<string, unknown>[];
  notices: string[];
  /** How many people are in a table or a file of cards. */
  records?: number;
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

interface Options {
  ours: string[];
  at: string;
  country: string | null;
}

async function readFileAs(file: string, { ours, at, country }: Options): Promise<Read> {
  try {
    const { size } = await stat(file);
    if (size > MAX_MESSAGE_BYTES) return refused(file, `larger than ${MAX_MESSAGE_BYTES / 1024 / 1024} MB`);
    const bytes = await readFile(file);
    const kind = kindOfFile(file, bytes);
    const reading = await readThing(kind, bytes, { ours, receivedAt: at, ...(country ? { country } : {}) });
    const shown = reading.kind === 'text' ? 'text' : kind;
    const { claims, intents, notices, records } = reading;
    return {
      file,
      kind: shown,
      ...(records === undefined ? {} : { records }),
      claims,
      intents: intents.map(plainIntent),
      notices,
    };
  } catch (error) {
    return refused(file, error instanceof Error ? error.message : String(error));
  }
}

const asLine = (read: Read): string =>
  read.error
    ? `${read.file}: ${read.error}`
    : `${read.file}: ${[...read.claims.map((claim) => `${claim.field}=${claim.normalized ?? claim.value}`), ...read.intents.map((intent) => `${String(intent.kind)}=${String(intent.text)}`)].join(' | ')}`;

async function runMatch(args: readonly string[]): Promise<number> {
  let out: string | null = null;
  const files: string[] = [];
  for (let index = 0; index < args.length; index++) {
    const word = args[index] ?? '';
    if (word === '--out') out = args[++index] ?? '';
    else files.push(word);
  }
  const [file] = files;
  if (!file || files.length > 1 || out === '' || file.startsWith('--')) {
    process.stderr.write(`emporikon match: which file?\n${USAGE}`);
    return 2;
  }
  try {
    const { rows, pairs } = await matchFile(file, out);
    if (out) process.stderr.write(`${pairs} pairs among ${rows} rows\n`);
    return 0;
  } catch (error) {
    process.stderr.write(`${file}: ${error instanceof Error ? error.message : String(error)}\n`);
    return 1;
  }
}

const defaultOptions = (): Options => ({
  ours: (process.env.EMPORIKON_OURS ?? 'wharfside.example').split(',').filter(Boolean),
  at: new Date().toISOString(),
  country: null,
});

/**
 * The command line.
 * @param args what stands after the command's name
 * @returns the exit code: 0 all read, 1 a file was refused, 2 wrong use
 */
export async function main(args: readonly string[]): Promise<number> {
  const [command, ...rest] = args;
  if (command === 'match') return runMatch(rest);
  if (command === 'ask') return runAsk(rest, defaultOptions().at, USAGE);
  if (command === 'turn') return runTurn(rest, defaultOptions(), USAGE);
  if (KEEPING.has(command ?? '')) return (await import('./keep')).runKeep(command as KeepCommand, rest);
  if (command !== 'read') {
    process.stderr.write(USAGE);
    return command === undefined || command === '--help' ? 0 : 2;
  }
  let json = false;
  const options = defaultOptions();
  const files: string[] = [];
  const wrong = (text: string): number => {
    process.stderr.write(`emporikon read: ${text}\n${USAGE}`);
    return 2;
  };
  for (let index = 0; index < rest.length; index++) {
    const word = rest[index] ?? '';
    if (word === '--json') json = true;
    else if (word === '--ours') options.ours = (rest[++index] ?? '').toLowerCase().split(',').filter(Boolean);
    else if (word === '--at') {
      options.at = rest[++index] ?? '';
      if (!/^\d{4}-\d\d-\d\d/.test(options.at) || Number.isNaN(Date.parse(options.at)))
        return wrong('--at needs a time such as 2026-11-24T10:00:00+00:00');
    } else if (word === '--country') {
      options.country = (rest[++index] ?? '').toUpperCase();
      if (!/^[A-Z]{2}$/.test(options.country)) return wrong('--country needs a code such as GB');
    } else if (word.startsWith('--') && word.length > 2) return wrong(`no such option ${word}`);
    else files.push(word);
  }
  if (!files.length) {
    process.stderr.write(`emporikon read: which file?\n${USAGE}`);
    return 2;
  }
  let code = 0;
  for (const file of files) {
    const read = await readFileAs(file, options);
    if (read.error) code = 1;
    process.stdout.write(`${json ? JSON.stringify(read) : asLine(read)}\n`);
  }
  return code;
}
