import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { conflict } from '../http/problems';

const keyOf = (secret: string): Buffer => createHash('sha256').update(`emporikon mailbox ${secret}`).digest();

/** Seals a password for the database: AES-256-GCM under a key that is not in it. */
export function seal(text: string, secret: string): string {
  const iv = randomBytes(12);
  const cipher = createCipheriv('aes-256-gcm', keyOf(secret), iv);
  const body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return [iv, cipher.getAuthTag(), body].map((part) => part.toString('base64')).join('.');
}

/** @throws when it was sealed under another key, or changed since */
export function unseal(sealed: string, secret: string): string {
  const [iv = '', tag = '', body = ''] = sealed.split('.');
  const decipher = createDecipheriv('aes-256-gcm', keyOf(secret), Buffer.from(iv, 'base64'));
  decipher.setAuthTag(Buffer.from(tag, 'base64'));
  return Buffer.concat([decipher.update(Buffer.from(body, 'base64')), decipher.final()]).toString('utf8');
}

/** A secret sealed for as long as it waits to be sent; without a key it stands as it is, for a short time. */
export const sealSecret = (sealKey: string | null, secret: string): string =>
  sealKey ? seal(secret, sealKey) : secret;
export const openSecret = (sealKey: string | null, sealed: string): string =>
  sealKey ? unseal(sealed, sealKey) : sealed;

/** A password sealed to be kept. @throws 409 where no key is set, as it could be read by whoever has the database */
export function sealPassword(sealKey: string | null, password: string): string {
  if (!sealKey)
    throw conflict('EMPORIKON_SECRET is not set, so no password can be stored. Nothing was saved.');
  return seal(password, sealKey);
}
