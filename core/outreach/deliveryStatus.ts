/** What is known of a letter at one address. */
export const DELIVERY_STATES = [
  'sent',
  'delivered',
  'delayed',
  'full',
  'gone',
  'refused',
  'complaint',
] as const;
export type DeliveryState = (typeof DELIVERY_STATES)[number];

/** RFC 3463: the mailbox or its domain is not there, and will not be. From memory of its list and the registry of RFC 5248. */
const GONE = new Set(['1.1', '1.2', '1.3', '1.4', '1.6', '1.10', '2.1', '4.4']);
/** 2.2 mailbox full; 2.3 and 3.1 are of a message or system that is too large or full. */
const FULL = new Set(['2.2']);

const SAYS_GONE =
  /\b(?:user|recipient|mailbox|address|account|no such)\b.{0,40}\b(?:unknown|not found|doesn'?t exist|does not exist|no longer|disabled|invalid|inactive|unavailable for good)\b|\bno such (?:user|recipient|mailbox|address|person|domain)\b|\bunknown (?:user|recipient|address|mailbox)\b|\b(?:host|domain) (?:or domain name )?not found\b|\bno mailbox here\b|\bunrouteable address\b/i;
const SAYS_FULL =
  /\b(?:mailbox|quota|inbox|storage)\b.{0,40}\b(?:full|exceeded|over)\b|\bover ?quota\b|\bquota exceeded\b/i;
const SAYS_REFUSED =
  /\b(?:spam|blocked|blacklist\w*|policy|reputation|denied|rejected for|not authori[sz]ed|DMARC|SPF)\b/i;

/**
 * What a mail system's answer about one address means.
 * @param action of RFC 3464, 2.3.3; empty where there is none
 * @param status of RFC 3463 such as `5.1.1`; empty where there is none
 * @param words what the server said
 * @returns `gone` only where the address itself is not there; anything else that failed is `refused`
 */
export function deliveryStateOf(action: string, status: string, words: string): DeliveryState {
  const [, kind = '', detail = ''] = /^([245])\.(\d{1,3}\.\d{1,3})$/.exec(status.trim()) ?? [];
  const act = action.trim().toLowerCase();
  if (act === 'delivered' || act === 'relayed' || act === 'expanded' || (kind === '2' && act !== 'failed'))
    return 'delivered';
  if (FULL.has(detail)) return 'full';
  const isOver = act === 'failed' || (act === '' && kind !== '4');
  if (!isOver) return SAYS_FULL.test(words) ? 'full' : 'delayed';
  // Many servers answer 5.0.0, 5.1.0 or 5.5.0 and say the rest in words.
  const isVague = detail === '' || /\.0$/.test(detail) || detail.startsWith('5.');
  if (SAYS_FULL.test(words) && (isVague || kind === '4')) return 'full';
  // 4.x.x that failed in the end was given up: nobody knows that the address is gone.
  if (kind === '4') return 'refused';
  if (GONE.has(detail)) return 'gone';
  if (detail.startsWith('7.') || (isVague && SAYS_REFUSED.test(words))) return 'refused';
  return isVague && SAYS_GONE.test(words) ? 'gone' : 'refused';
}
