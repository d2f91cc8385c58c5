export type As = 'prospect' | 'customer' | 'partner' | 'personal' | 'drop';

/** What somebody may be who is no prospect, each with its key. */
export const CHOICES: readonly { key: string; as: As; words: string }[] = [
  { key: 'c', as: 'customer', words: 'Customer' },
  { key: 'a', as: 'partner', words: 'Partner' },
  { key: 'e', as: 'personal', words: 'Personal' },
  { key: 'd', as: 'drop', words: 'Drop' },
];
