import type { CaptureRow } from '@emporikon/contract/captures';

/** What a message that no person wrote to somebody is called. */
export const NATURES: Record<NonNullable<CaptureRow['nature']>, string> = {
  newsletter: 'Newsletter',
  notice: 'Notice',
  'automatic reply': 'Automatic reply',
};
