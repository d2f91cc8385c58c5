import { companyDomain, isEmail, localPart, normalizeEmail } from '../../people/emails';
import { companyFitsDomain, companyLikeness, isDomainLabel } from '../../people/companies';
import {
  isRoleName,
  looksLikeName,
  nameFitsLocalPart,
  nameFromLocalPart,
  nameKey,
  nameOverlap,
  parseName,
} from '../../people/names';
import { fold, squash, tidy } from '../../people/text';
import { digestOf } from '../digest';
import { readIntents } from '../intents/read';
import { partSignature } from '../signature/block';
import { readIntroduction } from '../signature/introduction';
import { readSignature } from '../signature/read';
import type { Told } from '../signature/roles';
import type { Knowledge } from '../signature/scores';
import { titleLikeness } from '../signature/words';
import { toneOf } from '../tone';
import type { Claim, Mailbox, Reading, ReadOptions, Span } from '../types';
import { splitLayers, type Line } from './layers';
import { parseDate, takeApart, type Message } from './message';
import { choosePerson, type Chosen } from './sender';

const LONGEST_SAID = 600;

interface Shown {
  name: string;
  company: string;
}

/** Parts "Ines Duarte (Padaria Sol)", "Ines at Padaria Sol", "Ines Duarte | Padaria Sol", "Padaria Sol - Ines Duarte". */
function readDisplayName(mailbox: Mailbox | null, domain: string | null): Shown {
  let text = (mailbox?.name ?? '').replace(/^['"]+|['"]+$/g, '').trim();
  if (!text || text.includes('@')) return { name: '', company: '' };
  text = text.replace(/\s+via\s+.*$/i, '');
  const firm = (half: string): boolean =>
    companyLikeness(half) > 0 || (domain !== null && companyFitsDomain(half, domain));
  const halves =
    /^(.+?)\s*(?:\(([^)]+)\)|\s[|–—-]\s(.+))$/u.exec(text) ??
    /^(.+?)\s(?:at|from|@|bei|chez)\s(.+)$/iu.exec(text) ??
    /^(.+\s.+?)\svon\s(.+)$/iu.exec(text);
  if (halves?.[1]) {
    const left = halves[1];
    const right = halves[2] ?? halves[3] ?? '';
    const isTurned = firm(left) && (!firm(right) || companyLikeness(left) > companyLikeness(right));
    if (isTurned && looksLikeName(right)) return { name: right, company: left };
    if (looksLikeName(left)) return { name: left, company: firm(right) ? right : '' };
  }
  const comma = /^([^,]+),\s*([^,]+)$/.exec(text);
  if (
    comma?.[1] &&
    comma[2] &&
    (companyLikeness(comma[2]) >= 0.7 || (domain && companyFitsDomain(comma[2], domain)))
  )
    return { name: comma[1], company: comma[2] };
  if (isRoleName(text)) return { name: '', company: '' };
  const local = localPart(mailbox?.address ?? '');
  const isLabel =
    domain !== null && isDomainLabel(text, domain) && (isRoleName(local) || !text.includes(' '));
  if ((companyLikeness(text) >= 0.7 || isLabel) && !nameFitsLocalPart(text, local))
    return { name: '', company: text };
  return { name: text, company: '' };
}

/** Whether the signature writes the same name with its accents, in full, or given name first where the header has not. */
function isBetterWritten(signed: string, header: string, shown: string): boolean {
  if (signed === header) return false;
  if (fold(header) === fold(signed)) return /[^\p{ASCII}]/u.test(signed);
  const [few, many] = [nameKey(header).split(' '), nameKey(signed).split(' ')];
  if (many.length === few.length) return !shown.includes(',') && few.join() === many.join();
  const more = many.filter((word) => !few.includes(word));
  return more.length === 1 && few.every((word) => many.includes(word)) && titleLikeness(more.join(' ')) === 0;
}

/** "A Begum" who signs Aisha Begum, "Dan Okoro" who signs Daniel: one family name, the given name in full. */
function isSpeltOut(signed: string, header: string): boolean {
  const [full, short] = [parseName(signed), parseName(header)];
  return (
    full.familyName !== '' &&
    fold(full.familyName) === fold(short.familyName) &&
    full.givenName.length > short.givenName.length
  );
}

/** "Zurbriggen Reto" of reto.zurbriggen@: a local part that parts the two words tells their order. */
function inSpokenOrder(name: string, shown: string, address: string): string {
  const words = name.split(' ');
  const [first, second, ...more] = localPart(address).toLowerCase().split(/[._-]/);
  const [left, right] = words.map(squash);
  const turned =
    words.length === 2 && !more.length && !shown.includes(',') && first === right && second === left;
  return turned ? words.reverse().join(' ') : name;
}

function fullNameClaim(
  shown: string,
  told: Told | null,
  address: string,
  span: Span | undefined,
): Claim | null {
  const fromHeader = shown ? parseName(shown).fullName : '';
  const fromSignature = told ? parseName(told.value).fullName : '';
  const signed: Span | undefined = told ? { part: 'text', start: told.start, end: told.end } : undefined;
  const isWhole = fromHeader.includes(' ') && looksLikeName(fromHeader);
  if (isWhole) {
    const overlap = fromSignature ? nameOverlap(fromHeader, fromSignature) : 1;
    const agrees = fromSignature !== '' && overlap >= 0.99;
    const better = agrees
      ? isBetterWritten(fromSignature, fromHeader, shown)
      : isSpeltOut(fromSignature, fromHeader);
    const value = better ? fromSignature : inSpokenOrder(fromHeader, shown, address);
    return {
      field: 'fullName',
      value,
      confidence: agrees ? 0.99 : value === fromHeader && overlap >= 0.99 ? 0.95 : 0.85,
      span: better ? signed : span,
      source: agrees ? "sender's name and signature" : "sender's name",
    };
  }
  if (told && (fromSignature.includes(' ') || !fromHeader))
    return {
      field: 'fullName',
      value: fromSignature,
      confidence: Math.min(told.confidence, fromSignature.includes(' ') ? 0.95 : 0.7),
      span: signed,
      source: 'signature',
    };
  const guessed = nameFromLocalPart(localPart(address));
  if (guessed && (!fromHeader || nameOverlap(guessed, fromHeader) >= 0.99))
    return {
      field: 'fullName',
      value: guessed,
      confidence: fromHeader ? 0.85 : 0.7,
      span,
      source: "sender's address",
    };
  if (fromHeader && !isRoleName(fromHeader))
    return { field: 'fullName', value: fromHeader, confidence: 0.75, span, source: "sender's name" };
  return null;
}

function headerSpan(message: Message, text: string, own: boolean, needle: string): Span | undefined {
  if (!needle) return undefined;
  if (own) {
    const at = headerLine(message).indexOf(needle);
    return at < 0 ? undefined : { part: 'from', start: at, end: at + needle.length };
  }
  const at = text.indexOf(needle);
  return at < 0 ? undefined : { part: 'text', start: at, end: at + needle.length };
}

/** The From line as it is shown, which is what spans of part `from` count in. */
function headerLine(message: Pick<Message, 'from'>): string {
  if (!message.from) return '';
  return message.from.name ? `${message.from.name} <${message.from.address}>` : message.from.address;
}

function readClaims(
  message: Message,
  chosen: Chosen,
  receivedAt: string,
  currency: string | undefined,
): Pick<Reading, 'claims' | 'intents'> & { said: string; digest: string } {
  const { person, layer } = chosen;
  const own = layer.kind === 'own';
  const address = person?.address && isEmail(person.address) ? person.address : '';
  const domain = address ? companyDomain(address) : null;
  const shown = readDisplayName(person, domain);
  const sentAt = own
    ? (message.sentAt ?? receivedAt)
    : (parseDate(layer.date) ?? message.sentAt ?? receivedAt);
  const know: Knowledge = { name: shown.name ? parseName(shown.name).fullName : '', address, domain };
  const ourOwn = chosen.side === 'ours';
  const { body, signature } = partSignature(layer.lines, know.name, domain);
  const at = (needle: string): Span | undefined => headerSpan(message, message.text, own, needle);
  const claims: Claim[] = [];
  const read = ourOwn
    ? { claims: [], name: null, countries: [] }
    : readSignature({ signature, body, know, sentAt });
  const name = fullNameClaim(shown.name, read.name, address, at(person?.name ?? ''));
  if (name) claims.push(name);
  claims.push(...read.claims);
  if (address)
    claims.push({
      field: 'email',
      value: address,
      normalized: normalizeEmail(address),
      confidence: 0.99,
      span: at(address),
      source: own ? "sender's address" : 'the message that was handed on',
    });
  const missing = (field: Claim['field']): boolean => !claims.some((claim) => claim.field === field);
  if (!ourOwn)
    for (const claim of readIntroduction(body, know))
      if (missing(claim.field) || (claim.field === 'fullName' && !name?.value.includes(' ')))
        claims.push(claim);
  if (shown.company && missing('companyName'))
    claims.push({
      field: 'companyName',
      value: shown.company,
      confidence: domain && companyFitsDomain(shown.company, domain) ? 0.95 : 0.8,
      span: at(shown.company),
      source: "sender's name",
    });
  if (own && message.organization && missing('companyName'))
    claims.push({
      field: 'companyName',
      value: message.organization,
      confidence: 0.85,
      source: 'the Organization header',
    });
  const intents = ourOwn
    ? readIntents(body, sentAt, [], currency, 'ours').filter((intent) => intent.kind === 'promise')
    : readIntents(body, sentAt, read.countries, currency);
  return { claims: oneNameEach(claims), intents, said: saidIn(body), digest: digestOf(body, intents) };
}

function saidIn(body: readonly Line[]): string {
  let said = '';
  for (const line of body) {
    if (said.length > LONGEST_SAID) break;
    said += `${line.text} `;
  }
  return tidy(said).slice(0, LONGEST_SAID);
}

const ORDER = ['fullName', 'jobTitle', 'companyName', 'email', 'phone', 'url', 'profile', 'address'];

function oneNameEach(claims: readonly Claim[]): Claim[] {
  const single = new Set(['fullName', 'jobTitle', 'companyName', 'address']);
  const sorted = [...claims].sort(
    (a, b) => ORDER.indexOf(a.field) - ORDER.indexOf(b.field) || b.confidence - a.confidence,
  );
  return sorted.filter(
    (claim, index) =>
      !single.has(claim.field) || sorted.findIndex((one) => one.field === claim.field) === index,
  );
}

/**
 * Reads one email, or any text somebody pasted.
 * @param raw the bytes as they came; at most MAX_MESSAGE_BYTES, larger is for the caller to refuse
 * @param options who we are, and the time to resolve dates against when the message has none
 * @returns claims and intents with their spans; never throws, whatever the bytes are
 */
export async function readEmail(raw: Uint8Array, options: ReadOptions = {}): Promise<Reading> {
  const message = await takeApart(raw);
  const layers = splitLayers(message.text, message.quotes, message.subject);
  const chosen = choosePerson(message, layers, options.ours ?? []);
  const notices = [...message.notices];
  if (chosen.handedOnBy.length)
    notices.push(`handed on by ${chosen.handedOnBy.map((one) => one.name || one.address).join(', then ')}`);
  if (!message.hasHeaders) notices.push('no message headers: read as plain text');
  const { claims, intents, said, digest } = readClaims(
    message,
    chosen,
    options.receivedAt ?? '1970-01-01T00:00:00+00:00',
    options.currency,
  );
  return {
    kind: message.hasHeaders ? 'email' : 'text',
    claims,
    intents,
    message: {
      from: message.from,
      to: message.to,
      subject: message.subject,
      sentAt: message.sentAt,
      messageId: message.messageId,
      references: message.references,
      body: message.body,
      text: message.text,
      said,
      attachments: message.attachments,
      side: chosen.side,
      ...(message.nature && chosen.side === 'theirs' ? { nature: message.nature } : {}),
      digest,
      tone: said ? toneOf(said) : null,
    },
    notices,
  };
}

/** The HTML body behind a reading, for showing; null when the plain text was read. */
export async function htmlOf(raw: Uint8Array): Promise<string | null> {
  return (await takeApart(raw)).html;
}
