import type { Letter } from '@emporikon/contract/letters';

export interface Recipient {
  address: string;
  name: string;
  personId: string | null;
}
export type Way = Letter['recipients'][number]['way'];

const WRITTEN = /^\s*(?:"?([^"<>]*?)"?\s*<\s*)?([^\s<>@,;]{1,64}@[^\s<>@,;]{1,255})\s*>?\s*$/;

/** An address as it is typed or pasted: `ana@padaria.example`, `Ana Leça <ana@padaria.example>`; null where it is none. */
export function addressIn(typed: string): Recipient | null {
  const [, name = '', address] = WRITTEN.exec(typed) ?? [];
  return address?.split('@')[1]?.includes('.')
    ? { address: address.toLowerCase(), name: name.trim(), personId: null }
    : null;
}

export const ofWay = (letter: Pick<Letter, 'recipients'>, way: Way): Recipient[] =>
  letter.recipients
    .filter((one) => one.way === way)
    .map(({ address, name, personId }) => ({ address, name, personId }));
