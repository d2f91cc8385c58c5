import type { TagMeaning } from '@emporikon/contract/tags';

/** What a tag can mean, and how that is said; its colour is that of the same meaning everywhere else. */
export const MEANINGS: readonly { value: TagMeaning | null; title: string }[] = [
  { value: null, title: 'No colour' },
  { value: 'ours', title: 'For us to do' },
  { value: 'theirs', title: 'Up to them' },
  { value: 'waiting', title: 'Waiting' },
  { value: 'warning', title: 'Take care' },
];

/** The class of the colour that goes with a meaning (`kit.css`). */
export const toneClass = (meaning: TagMeaning | null | undefined): string =>
  meaning ? `tone-${meaning}` : '';
