import type { Places } from './coverage';

/** What somebody said of being written to about something. */
export const CONSENT_STATES = ['agreed', 'unconfirmed', 'withdrawn'] as const;
export type ConsentState = (typeof CONSENT_STATES)[number];

/** How it was said: in a form, by the link of a mail, on their own page, by their mail program, in a message, or through somebody else. */
export const CONSENT_WAYS = [
  'form',
  'confirmed',
  'page',
  'one-click',
  'mail',
  'complaint',
  'by hand',
  'import',
] as const;
export type ConsentWay = (typeof CONSENT_WAYS)[number];

/** Whether mail arrives at an address. */
export const REACHES = ['good', 'full', 'gone'] as const;
export type Reach = (typeof REACHES)[number];

export interface Statement {
  state: ConsentState;
  words: string;
  /** Of a topic by area; null for everything else. */
  places: Places | null;
}

const keyOf = (places: Places | null): string =>
  places
    ? JSON.stringify([
        places.codes.map(({ country, code }) => `${country} ${code}`).sort(),
        [...places.areas].sort(),
      ])
    : '';

/**
 * Whether a statement says anything beside the one that holds. A question takes no agreement back, and somebody who withdrew is
 * asked anew without being agreed by it; agreeing to other words or for other places is a statement of its own.
 * @param current the statement that holds; null for none
 */
export function isNews(current: Statement | null, next: Statement): boolean {
  if (!current) return true;
  if (next.state === 'unconfirmed') return current.state === 'withdrawn';
  if (next.state !== current.state) return true;
  const isSaidAnew = next.words !== '' && next.words !== current.words;
  return next.state === 'agreed' && (isSaidAnew || keyOf(next.places) !== keyOf(current.places));
}
