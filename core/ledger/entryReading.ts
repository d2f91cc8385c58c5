import { natureOf } from '../reading/email/nature';
import type { MailNature } from '../reading/types';
import { alternatives } from '../words/compile';
import { readNoteStatements, type NoteStatements } from './noteStatements';
import { readStatements, type Statements } from './statements';
import { flat } from './turnPatterns';

export type Side = 'theirs' | 'ours' | 'within';
export type TurnOutcome = 'spoke' | 'no answer' | 'voicemail' | 'moved';

/** One entry of a ledger, as far as its words go. */
export interface Said {
  side: Side;
  kind: string;
  /** What was said or noted. */
  text?: string;
  /** How a call or a meeting went. */
  outcome?: TurnOutcome | null;
  subject?: string;
  /** Who sent it: a name, an address, or both. */
  from?: string;
  /** The headers of a mail, by names in any case. */
  headers?: Readonly<Record<string, string>>;
  /** What a mail is where no person wrote it, where that was read before. */
  nature?: MailNature | null;
}

/** What one entry of a ledger leaves open and settles: read once, and kept beside it. */
export interface EntryReading {
  /** By which reader; one of an earlier version is read again. */
  version: number;
  isRobot: boolean;
  /** Of what somebody wrote. */
  said: Statements | null;
  /** Of the note of a call, a meeting or a visit. */
  noted: NoteStatements | null;
}

/** Goes up whenever the same words are read in another way. */
export const READING_VERSION = 3;

const SPOKEN = new Set(['call', 'meeting', 'visit']);
/** Kinds of entries of which no word is spoken to anybody. */
const SILENT = new Set(['note', 'task', 'change', 'file']);
/** So much of an entry is read: what is owed stands at the top of a letter, not in its twentieth page. */
const LONGEST = 20_000;
/** So many of its words are kept to tell which question a later answer is to. */
const WORDS_KEPT = 1200;
/** Subjects of programs that answer for people (common practice). */
const ROBOT_SUBJECT = new RegExp(
  `^(?:(?:re|aw|fwd?|sv|tr): *)?(?:${alternatives('robotSubject')})(?![\\p{L}\\p{N}])`,
  'u',
);
const ADDRESS = /[^\s<>@]+@[^\s<>@]+/;

/** Whether a program sent it: what robots and notices say is nobody's turn. */
function isFromRobot({ headers = {}, from = '', subject = '', nature: known = null }: Said): boolean {
  if (known) return true;
  const named = new Map(Object.entries(headers).map(([name, value]) => [name.toLowerCase(), value]));
  const address = ADDRESS.exec(from)?.[0] ?? ADDRESS.exec(named.get('from') ?? '')?.[0];
  const replyTo = ADDRESS.exec(named.get('reply-to') ?? '')?.[0];
  const nature = natureOf({
    header: (name) => named.get(name) ?? '',
    from: address ? { name: '', address } : null,
    replyTo: replyTo ? { name: '', address: replyTo } : null,
    subject,
  });
  return nature !== null || ROBOT_SUBJECT.test(flat(subject));
}

/** Reads one entry; it depends on nothing but the entry itself. */
export function readEntry(entry: Said): EntryReading {
  const { side, kind, subject = '', from = '' } = entry;
  const reading: EntryReading = { version: READING_VERSION, isRobot: false, said: null, noted: null };
  if (side === 'within' || SILENT.has(kind)) return reading;
  if (isFromRobot(entry)) return { ...reading, isRobot: true };
  const text = (entry.text ?? '').slice(0, LONGEST);
  if (SPOKEN.has(kind)) return { ...reading, noted: readNoteStatements(text) };
  const said = readStatements(text, { side, subject, name: from.replace(/<.*$/, '').trim() });
  const [words, besides] = [said.words, said.besides].map((kept) => kept.slice(0, WORDS_KEPT)) as [
    string,
    string,
  ];
  return { ...reading, said: { ...said, words, besides } };
}
