import type { PersonConsent, Statement } from '@emporikon/contract/consent';

const STATES: Readonly<Record<Statement['state'], string>> = {
  agreed: 'agreed',
  unconfirmed: 'asked, not confirmed',
  withdrawn: 'withdrawn',
};
const WAYS: Readonly<Record<Statement['how'], string>> = {
  form: 'ticked in a form',
  confirmed: 'confirmed by mail',
  page: 'on their own page',
  'one-click': 'unsubscribed in their mail program',
  mail: 'said so in a mail',
  complaint: 'reported a letter as unwanted',
  'by hand': 'noted by hand',
  import: 'from an imported list',
};
const REACHES = { good: 'works', full: 'mailbox full', gone: 'no longer exists' } as const;

export const stateWords = (state: Statement['state'] | null): string => (state ? STATES[state] : 'not asked');
export const wayWords = (how: Statement['how'], state: Statement['state'] | null): string =>
  how === 'by hand' && state === 'unconfirmed' ? 'by mail' : WAYS[how];
export const reachWords = (reach: keyof typeof REACHES): string => REACHES[reach];

const SHORT: readonly (readonly [Statement['state'], string])[] = [
  ['agreed', 'agreed'],
  ['unconfirmed', 'asked'],
  ['withdrawn', 'withdrawn'],
];
/** What somebody said of being written to, in a line: "News agreed · Service, Offers withdrawn". */
export const consentLine = (consents: readonly { purpose: string; state: Statement['state'] }[]): string =>
  SHORT.flatMap(([state, word]) => {
    const names = consents.flatMap((one) => (one.state === state ? [one.purpose] : []));
    return names.length ? [`${names.join(', ')} ${word}`] : [];
  }).join(' · ') || 'Not asked';

type Topic = PersonConsent['purposes'][number]['topics'][number];
/** For which places somebody subscribed to a topic. */
export function placesWords(
  { byArea, state, places }: Topic,
  areas: readonly { id: string; name: string }[],
): string {
  if (!byArea || state !== 'agreed') return '';
  const named = (places?.areas ?? []).flatMap((id) => areas.find((area) => area.id === id)?.name ?? []);
  const codes = (places?.codes ?? []).map(({ country, code }) => `${country} ${code}`);
  return [...named, ...codes].join(', ') || 'everywhere';
}
