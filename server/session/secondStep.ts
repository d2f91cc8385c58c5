import { randomInt } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { Context, Tools } from '../commands/context';
import type { User } from '../db/models/users';
import { ProblemError } from '../http/problems';
import { unseal } from '../mailboxes/seal';
import { countCodeTry, forgetCodeTries } from './attempts';
import { hashPassword, isPassword } from './secrets';
import { stepOf } from './totp';

interface Factor {
  sealed: string;
  confirmed_at: Date | null;
  last_step: string;
}
/** What a code turned out to be: of a half minute of the app, or one of the recovery codes. */
type Proof = { step: number } | { recoveryId: string };

const CODES = 10;
/** Letters and digits that nobody takes for each other. */
const ALPHABET = 'abcdefghjkmnpqrstuvwxyz23456789';
const HALF = 6;

export async function findFactor(
  { sequelize }: Pick<Tools, 'sequelize'>,
  userId: string,
): Promise<Factor | null> {
  const [factor] = await sequelize.query<Factor>(
    'SELECT sealed, confirmed_at, last_step FROM second_factors WHERE user_id = $userId',
    { bind: { userId }, type: QueryTypes.SELECT },
  );
  return factor ?? null;
}

/** Whether somebody who signed in with their password has to set up codes before anything else. */
export async function isObliged(context: Context, { id, role }: Pick<User, 'id' | 'role'>): Promise<boolean> {
  const [row] = await context.sequelize.query<{ must: boolean }>('SELECT must_add_code($id, $role) AS must', {
    bind: { id, role },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return row?.must ?? false;
}

/** The secret of a factor; null where it was sealed under another key than ours. */
function secretOf({ outside }: Pick<Tools, 'outside'>, factor: Factor): string | null {
  try {
    return outside.sealKey ? unseal(factor.sealed, outside.sealKey) : null;
  } catch {
    return null;
  }
}

const plain = (code: string): string => code.toLowerCase().replace(/[^a-z0-9]/g, '');

/** Which unused recovery code it is. Each is hashed with a salt of its own, so that all are tried. */
async function recoveryIdOf({ sequelize }: Tools, userId: string, code: string): Promise<string | null> {
  if (plain(code).length !== 2 * HALF) return null;
  const rows = await sequelize.query<{ id: string; hash: string }>(
    'SELECT id, code_hash AS hash FROM recovery_codes WHERE user_id = $userId',
    { bind: { userId }, type: QueryTypes.SELECT },
  );
  for (const { id, hash } of rows) if (await isPassword(hash, plain(code))) return id;
  return null;
}

/** What a code proves; null where it is none of theirs. Asked outside a transaction, because hashing takes its time. */
async function proofOf(tools: Tools, userId: string, code: string, factor: Factor): Promise<Proof | null> {
  const secret = secretOf(tools, factor);
  const step = secret === null ? null : stepOf(secret, code, tools.now(), Number(factor.last_step));
  if (step !== null) return { step };
  const recoveryId = factor.confirmed_at && (await recoveryIdOf(tools, userId, code));
  return recoveryId ? { recoveryId } : null;
}

/** Uses a proof up. @returns false where it was used meanwhile */
export async function useProof(context: Context, userId: string, proof: Proof): Promise<boolean> {
  const rows = await context.sequelize.query(
    'step' in proof
      ? 'UPDATE second_factors SET last_step = $step WHERE user_id = $userId AND last_step < $step RETURNING user_id'
      : 'DELETE FROM recovery_codes WHERE user_id = $userId AND id = $recoveryId RETURNING id',
    { bind: { userId, ...proof }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.length > 0;
}

const problem = (type: string, detail: string): ProblemError =>
  new ProblemError({ type: `urn:emporikon:problem:${type}`, title: 'One more step', status: 401, detail });
export const codeWanted = (): ProblemError =>
  problem('code-wanted', 'Enter the six digits your authenticator app shows, or a recovery code.');
export const wrongCode = (): ProblemError =>
  problem(
    'wrong-code',
    'This code is wrong, was used before, or is too old. Enter the one the app shows now.',
  );

/** Limits, looks at and counts a code. @throws 401 for a wrong one, 429 after too many */
export async function requireProof(
  tools: Tools,
  user: { id: string; email: string },
  code: string,
  factor: Factor,
): Promise<Proof> {
  await countCodeTry(tools, user.email);
  const proof = await proofOf(tools, user.id, code, factor);
  if (!proof) throw wrongCode();
  await forgetCodeTries(tools, user.email);
  return proof;
}

const newCode = (): string => {
  const letters = Array.from({ length: 2 * HALF }, () => ALPHABET[randomInt(ALPHABET.length)]).join('');
  return `${letters.slice(0, HALF)}-${letters.slice(HALF)}`;
};

/** Fresh recovery codes, as they are shown and as they are kept. */
export async function makeRecoveryCodes(): Promise<{ codes: string[]; hashes: string[] }> {
  const codes = Array.from({ length: CODES }, newCode);
  return { codes, hashes: await Promise.all(codes.map((code) => hashPassword(plain(code)))) };
}

/** Puts fresh recovery codes in the place of the old ones. */
export async function keepRecoveryCodes(
  context: Context,
  userId: string,
  hashes: readonly string[],
): Promise<void> {
  await context.sequelize.query('DELETE FROM recovery_codes WHERE user_id = $userId', {
    bind: { userId },
    transaction: context.tx,
  });
  await context.sequelize.query(
    `INSERT INTO recovery_codes (id, user_id, code_hash, made_at)
     SELECT id, $userId, hash, $now FROM unnest($ids::uuid[], $hashes::text[]) AS t (id, hash)`,
    {
      bind: { userId, ids: hashes.map(() => context.newId()), hashes: [...hashes], now: context.now() },
      transaction: context.tx,
    },
  );
}

/** Turns it off: the secret and the codes are gone. @returns false where it was off */
export async function removeFactor(context: Context, userId: string): Promise<boolean> {
  const [gone] = await context.sequelize.query<{ isOn: boolean }>(
    `WITH codes AS (DELETE FROM recovery_codes WHERE user_id = $userId)
     DELETE FROM second_factors WHERE user_id = $userId RETURNING confirmed_at IS NOT NULL AS "isOn"`,
    { bind: { userId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return gone?.isOn ?? false;
}
