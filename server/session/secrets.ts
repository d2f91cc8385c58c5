import { hash, verify } from '@node-rs/argon2';
import { createHash, randomBytes } from 'node:crypto';

export const SESSION_COOKIE = 'emporikon_session';
export const SESSION_DAYS = 30;
/** A session that is not used for so long is over. */
export const IDLE_DAYS = 14;

/** OWASP's floor for argon2id: 19 MiB, two passes, one lane (Password Storage Cheat Sheet; from memory). */
const ARGON2ID = { algorithm: 2, memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const;

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON2ID);
export const isPassword = (passwordHash: string, password: string): Promise<boolean> =>
  verify(passwordHash, password);

/** A secret nobody guesses, and the form in which the database keeps it. */
export const newToken = (): string => randomBytes(32).toString('base64url');
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
