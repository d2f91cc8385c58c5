import { generateSecret, generateURI, verifySync } from 'otplib';

/** RFC 6238 with what every authenticator app takes for granted: SHA-1, six digits, half a minute. */
const STEP_SECONDS = 30;
/** A code is taken a step early or late: clocks differ, and typing takes a while (RFC 6238 §5.2). */
const TOLERANCE_SECONDS = 30;

/** A secret of 160 bits in base32. */
export const newSecret = (): string => generateSecret();

/** The address by which an app takes the secret, as a QR code. */
export const uriOf = (secret: string, email: string): string =>
  generateURI({ issuer: 'Emporikon', label: email, secret });

/**
 * The step a code is of, counted in half minutes since 1970; null where it is of none near that moment, or of one up to
 * `after`, because a code is good once.
 */
export function stepOf(secret: string, code: string, at: Date, after = 0): number | null {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return null;
  const result = verifySync({
    secret,
    token,
    epoch: Math.floor(at.getTime() / 1000),
    period: STEP_SECONDS,
    epochTolerance: TOLERANCE_SECONDS,
    afterTimeStep: after,
  });
  return result.valid && 'timeStep' in result ? result.timeStep : null;
}
