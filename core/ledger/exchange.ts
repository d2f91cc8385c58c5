import { splitMbox } from '../reading/email/mbox';
import { takeApart } from '../reading/email/message';
import { isOurs } from '../reading/email/sender';
import { readTurn, type TurnEntry, type TurnOutcome, type TurnState } from './turn';

/** What keeps a file from being an exchange; its message says which line and why. */
class NoExchange extends Error {}

const KINDS = new Set(['mail', 'call', 'meeting', 'visit', 'form', 'note', 'task', 'quote']);
const OUTCOMES = new Set<unknown>(['spoke', 'no answer', 'voicemail', 'moved']);

function entryOf(line: string, number: number): TurnEntry {
  const wrong = (why: string): never => {
    throw new NoExchange(`line ${number}: ${why}`);
  };
  let said: Record<string, unknown> = {};
  try {
    const parsed: unknown = JSON.parse(line);
    if (typeof parsed === 'object' && parsed !== null && !Array.isArray(parsed))
      said = parsed as Record<string, unknown>;
    else wrong('no object');
  } catch (error) {
    if (error instanceof NoExchange) throw error;
    wrong('no JSON');
  }
  const textOf = (name: string): string => {
    const value = said[name] ?? '';
    return typeof value === 'string' ? value : wrong(`${name} is no text`);
  };
  const [at, side, kind] = [textOf('at'), textOf('side'), textOf('kind')];
  if (Number.isNaN(Date.parse(at))) wrong(`at is no time: ${at.slice(0, 40)}`);
  if (side !== 'ours' && side !== 'theirs') return wrong('side is ours or theirs');
  if (!KINDS.has(kind)) wrong(`kind is one of ${[...KINDS].join(', ')}`);
  const { outcome, headers } = said;
  if (outcome !== undefined && outcome !== null && !OUTCOMES.has(outcome))
    wrong(`outcome is one of ${[...OUTCOMES].join(', ')}`);
  return {
    at,
    side,
    kind,
    text: textOf('text'),
    subject: textOf('subject'),
    from: textOf('from'),
    ...(outcome ? { outcome: outcome as TurnOutcome } : {}),
    headers: Object.fromEntries(
      Object.entries(typeof headers === 'object' && headers !== null ? headers : {}).map(([name, value]) => [
        name,
        String(value),
      ]),
    ),
  };
}

async function entryOfMail(raw: Uint8Array, ours: readonly string[]): Promise<TurnEntry | null> {
  const { from, sentAt, subject, text, nature } = await takeApart(raw);
  if (!from || !sentAt) return null;
  return {
    at: sentAt,
    side: isOurs(from.address.toLowerCase(), ours) ? 'ours' : 'theirs',
    kind: 'mail',
    text,
    subject,
    from: `${from.name} <${from.address}>`,
    nature,
  };
}

/**
 * Reads whose turn it is in an exchange that stands in a file.
 * @param bytes a mailbox file (RFC 4155), or a line of JSON an entry: `at`, `side`, `kind`, `text`, and where they are known
 *   `outcome`, `from`, `subject`, `headers`
 * @param options our own domains or addresses, and the time it is asked about: what is later does not count
 * @throws NoExchange when it is neither
 */
export async function readExchange(
  bytes: Uint8Array,
  { ours, at }: { ours: readonly string[]; at: string },
): Promise<TurnState> {
  const mails = splitMbox(bytes);
  const entries = mails.length
    ? (await Promise.all(mails.map((mail) => entryOfMail(mail, ours)))).filter((entry) => entry !== null)
    : new TextDecoder()
        .decode(bytes)
        .split('\n')
        .flatMap((line, index) => (line.trim() ? [entryOf(line, index + 1)] : []));
  return readTurn(entries.filter((entry) => Date.parse(entry.at) <= Date.parse(at)));
}
