import { companyDomain, normalizeEmail, registrableDomain } from '../../people/emails';
import type { Mailbox } from '../types';
import { isForwardSubject, type Layer } from './layers';
import type { Message } from './message';

export interface Chosen {
  layer: Layer;
  /** Who the message is of interest for; null when nobody is named. */
  person: Mailbox | null;
  /** Index 0: written to us directly. */
  handedOnBy: Mailbox[];
  side: 'ours' | 'theirs';
}

/** Whether an address or its domain is on our list. Both lower case. */
export function isOurs(address: string, ours: readonly string[]): boolean {
  const normalized = normalizeEmail(address);
  const domain = registrableDomain(normalized) ?? '';
  return ours.some(
    (our) =>
      our === normalized ||
      our === domain ||
      normalized.endsWith(`@${our}`) ||
      normalized.endsWith(`.${our}`),
  );
}

const isShort = (layer: Layer): boolean => layer.lines.map((line) => line.text.trim()).join(' ').length < 400;

/**
 * Whether a hand-on comes from inside our own house: by the list of our domains, or because sender and recipient are
 * of one firm. Where neither end is on the list, a short note above something the sender was sent counts as well.
 */
function isInside(
  sender: Mailbox | null,
  recipients: readonly string[],
  layer: Layer,
  inner: Layer,
  ours: readonly string[],
): boolean {
  if (!sender?.address) return true;
  if (isOurs(sender.address, ours)) return true;
  const domain = companyDomain(sender.address);
  if (domain && recipients.some((to) => companyDomain(to) === domain)) return true;
  if (domain && inner.from?.address && companyDomain(inner.from.address) === domain) return false;
  if (recipients.some((to) => isOurs(to, ours))) return false;
  const received =
    inner.to.toLowerCase().includes(normalizeEmail(sender.address)) ||
    (sender.name !== '' && inner.to.toLowerCase().includes(sender.name.toLowerCase()));
  return (received || inner.to === '') && isShort(layer);
}

/** "… via cargo-trade": how a list writes itself into the name of whoever wrote. */
const VIA = /^['"]*(.*?)['"]*\s+(?:via|über|através de|tramite)\s+.*$/iu;

/** Whoever answers are to go to, where a portal writes for them: "Rui via Contactos", with an address of another domain. */
function writtenFor({ from, replyTo }: Message): Mailbox | null {
  const name = VIA.exec(from?.name ?? '')?.[1];
  if (!from || !name || !replyTo?.address) return null;
  const isPortals = registrableDomain(replyTo.address) === registrableDomain(from.address);
  return isPortals ? null : { name: replyTo.name || name, address: replyTo.address };
}

/** Who wrote a message: behind a list that puts its own address in From, whoever Reply-To names. */
function authorOf(message: Message): Mailbox | null {
  const { from, replyTo, list, to } = message;
  if (list === null || !from) return writtenFor(message) ?? from;
  const isLists = (address: string): boolean =>
    address.toLowerCase() === list || to.some((one) => one.address.toLowerCase() === address.toLowerCase());
  if (!isLists(from.address)) return from;
  const name = VIA.exec(from.name)?.[1] ?? from.name;
  const address = replyTo?.address && !isLists(replyTo.address) ? replyTo.address : '';
  return { name, address };
}

/**
 * Chooses whose message this really is. A message forwarded by one of our own, through however many hands, is its
 * first outside sender's. A message we sent ourselves is about its first outside recipient.
 */
export function choosePerson(message: Message, layers: readonly Layer[], ours: readonly string[]): Chosen {
  const author = authorOf(message);
  const own = layers[0] ?? { kind: 'own', from: null, to: '', subject: '', date: '', lines: [] };
  let sender = author;
  let recipients = message.to.map((to) => to.address);
  let layer = own;
  const handedOnBy: Mailbox[] = [];
  const forwarded = layers
    .slice(1)
    .filter(
      (layer) => layer.kind === 'forwarded' || (layer.from !== null && isForwardSubject(message.subject)),
    );
  for (const inner of forwarded) {
    if (!inner.from || !isInside(sender, recipients, layer, inner, ours)) break;
    if (sender) handedOnBy.push(sender);
    sender = inner.from;
    recipients = inner.to.match(/[^\s<>;,"]+@[^\s<>;,"]+/g) ?? [];
    layer = inner;
  }
  if (sender?.address && isOurs(sender.address, ours)) {
    const outside = message.to.find((to) => to.address && !isOurs(to.address, ours));
    return { layer: own, person: outside ?? null, handedOnBy: [], side: 'ours' };
  }
  return { layer, person: sender, handedOnBy, side: 'theirs' };
}
