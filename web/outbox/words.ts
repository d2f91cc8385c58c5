import type { Delivery } from '@emporikon/contract/outbox';

/** What became of something that goes out, in words; empty where it simply went out. */
export function deliveryWords({ state, trouble, nextTryAt }: Delivery, what: string): string {
  const because = trouble ? ` (${trouble})` : '';
  switch (state) {
    case 'sent':
      return '';
    case 'waiting':
      return nextTryAt
        ? `${what} has not gone out yet${because}; it is tried again automatically.`
        : `${what} is on its way.`;
    case 'sending':
      return `${what} is on its way.`;
    case 'unsure':
      return `${what} may have gone out, or not${because}.`;
    default:
      return `${what} did not go out${because}.`;
  }
}

/** Whether somebody may ask for it again. */
export const mayRepeat = ({ state }: Delivery): boolean =>
  state === 'failed' || state === 'expired' || state === 'unsure';
