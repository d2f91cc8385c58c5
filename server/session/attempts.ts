import { QueryTypes } from 'sequelize';
import type { Tools } from '../commands/context';
import { tooMany } from '../http/problems';

const WINDOW_MINUTES = 15;
/** Wrong attempts within the window: by one address at one account, by one address, and at one account from anywhere. */
const MOST_OF_A_PAIR = 8;
const MOST_FROM_AN_ADDRESS = 60;
const MOST_AT_AN_ACCOUNT = 60;
const KNOWN_DAYS = 90;

export interface Attempt {
  email: string;
  /** The address it comes from. */
  from: string;
}

const keysOf = ({ email, from }: Attempt): { pair: string; address: string; account: string } => ({
  pair: `pair:${email}|${from}`,
  address: `from:${from}`,
  account: `email:${email}`,
});

interface Counts {
  pair: number;
  address: number;
  account: number;
  known: boolean;
}

async function count({ sequelize, now }: Tools, attempt: Attempt): Promise<Counts> {
  const [row] = await sequelize.query<Counts>(
    `SELECT count(*) FILTER (WHERE key = $pair)::int AS pair, count(*) FILTER (WHERE key = $address)::int AS address,
            count(*) FILTER (WHERE key = $account)::int AS account,
            EXISTS (SELECT 1 FROM sign_ins s JOIN users u ON u.id = s.user_id WHERE u.email = $email AND s.address = $from AND s.at > $knownSince) AS known
       FROM sign_in_failures WHERE key = ANY (ARRAY[$pair, $address, $account]) AND at > $since`,
    {
      bind: {
        ...keysOf(attempt),
        ...attempt,
        since: new Date(now().getTime() - WINDOW_MINUTES * 60_000),
        knownSince: new Date(now().getTime() - KNOWN_DAYS * 86_400_000),
      },
      type: QueryTypes.SELECT,
    },
  );
  return row ?? { pair: 0, address: 0, account: 0, known: false };
}

const isTooMany = ({ pair, address, account, known }: Counts): boolean =>
  pair > MOST_OF_A_PAIR || (!known && (address > MOST_FROM_AN_ADDRESS || account > MOST_AT_AN_ACCOUNT));

async function note({ sequelize, now }: Tools, attempt: Attempt): Promise<string[]> {
  const rows = await sequelize.query<{ id: string }>(
    `WITH old AS (DELETE FROM sign_in_failures WHERE at < $now::timestamptz - interval '1 day')
     INSERT INTO sign_in_failures (key, at) SELECT key, $now FROM unnest($keys::text[]) AS key RETURNING id`,
    { bind: { keys: Object.values(keysOf(attempt)), now: now() }, type: QueryTypes.SELECT },
  );
  return rows.map(({ id }) => id);
}

const forget = ({ sequelize }: Tools, ids: readonly string[]): Promise<unknown> =>
  sequelize.query('DELETE FROM sign_in_failures WHERE id = ANY ($ids::bigint[])', { bind: { ids } });

/**
 * Looks at a password, and stops guessing without locking anybody out: whoever signed in from this address before is only
 * held to their own failures here, whatever is tried at their account from elsewhere or by others from the same office. A
 * try is counted before it is looked at, so that many at once are no way around the limit; a right one is taken off again.
 * @returns whether it is right
 * @throws 429
 */
export async function tryPassword(
  tools: Tools,
  attempt: Attempt,
  isRight: () => Promise<boolean>,
): Promise<boolean> {
  const noted = await note(tools, attempt);
  if (isTooMany(await count(tools, attempt))) {
    await forget(tools, noted);
    throw tooMany(
      `Too many wrong attempts. Wait ${WINDOW_MINUTES} minutes and try again.`,
      WINDOW_MINUTES * 60,
    );
  }
  if (!(await isRight())) return false;
  await forget(tools, noted);
  return true;
}

/** Tries of codes at one account within the window, from anywhere: only who knows the password comes this far. */
const MOST_CODES = 10;
const codeKey = (email: string): string => `code:${email}`;

/** Counts a try of a code before it is looked at, so that many at once are no way around the limit. @throws 429 */
export async function countCodeTry({ sequelize, now }: Tools, email: string): Promise<void> {
  const key = codeKey(email);
  await sequelize.query('INSERT INTO sign_in_failures (key, at) VALUES ($key, $now)', {
    bind: { key, now: now() },
  });
  const [row] = await sequelize.query<{ n: number }>(
    'SELECT count(*)::int AS n FROM sign_in_failures WHERE key = $key AND at > $since',
    {
      bind: { key, since: new Date(now().getTime() - WINDOW_MINUTES * 60_000) },
      type: QueryTypes.SELECT,
    },
  );
  if ((row?.n ?? 0) > MOST_CODES)
    throw tooMany(`Too many wrong codes. Wait ${WINDOW_MINUTES} minutes and try again.`, WINDOW_MINUTES * 60);
}

/** After a right code none of the tries before it counts. */
export const forgetCodeTries = ({ sequelize }: Tools, email: string): Promise<unknown> =>
  sequelize.query('DELETE FROM sign_in_failures WHERE key = $key', { bind: { key: codeKey(email) } });
