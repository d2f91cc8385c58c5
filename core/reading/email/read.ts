import {
  companyDomain,
  findEmails,
  isEmail,
  localPart,
  normalizeEmail,
  registrableDomain,
} from '../../people/emails';
import { companyFitsDomain } from '../../people/companies';
import { nameFitsLocalPart, parseName } from '../../people/names';
import { tidy } from '../../people/text';
import { digestOf } from '../digest';
import { readIntents } from '../intents/read';
import { partSignature } from '../signature/block';
import { readIntroduction, signedWithin } from '../signature/introduction';
import { readSignature } from '../signature/read';
import type { Knowledge } from '../signature/scores';
import { toneOf } from '../tone';
import type { Claim, Reading, ReadOptions, Span } from '../types';
import { fullNameClaim, readDisplayName } from './called';
import { splitLayers, type Line } from './layers';
import { parseDate, takeApart, type Message } from './message';
import { isKnownName } from '../page/names';
import { readRobot } from './robot';
import { choosePerson, type Chosen } from './sender';

const LONGEST_SAID = 600;
const SURE_OF_A_LINE = 0.8;
const MOST_LINES = 400;

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
  const { list } = message;
  const isAutomatic = message.nature === 'automatic reply';
  const { body, signature } = partSignature(layer.lines, know.name, domain, !isAutomatic);
  const at = (needle: string): Span | undefined => headerSpan(message, message.text, own, needle);
  const claims: Claim[] = [];
  const read = ourOwn
    ? { claims: [], name: null, countries: [] }
    : readSignature({ signature, body: isAutomatic ? [] : body, know, sentAt });
  const name = fullNameClaim(shown.name, read.name, address, at(person?.name ?? ''));
  if (name) claims.push(name);
  claims.push(...read.claims.filter((claim) => !isOfList(claim, list)));
  if (!ourOwn) claims.push(...fromPictures(message, know, sentAt, claims), ...saidEmails(body, know, claims));
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
  if (!ourOwn && !isAutomatic)
    for (const claim of [...readIntroduction(body, know), ...signedWithin(body)])
      if (missing(claim.field) || (claim.field === 'fullName' && !name?.value.includes(' ')))
        claims.push(claim);
  const told = claims.findIndex((claim) => claim.field === 'companyName');
  // What the sender calls itself says more than a line that is a firm only by its place.
  const isGuess = told >= 0 && (claims[told]?.confidence ?? 1) < SURE_OF_A_LINE;
  if (shown.company && isGuess) claims.splice(told, 1);
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
  return {
    claims: oneNameEach(ofNature(claims, message, shown.name)),
    intents,
    said: saidIn(body),
    digest: digestOf(body, intents),
  };
}

/** Whether an address or a link is the mailing list's own. */
const isOfList = (claim: Claim, list: string | null): boolean =>
  list !== null &&
  (claim.field === 'email' || claim.field === 'url') &&
  registrableDomain(claim.value) === registrableDomain(list);

/** What a signature says that is nothing but a picture, by the words given for those who cannot see it. */
function fromPictures(message: Message, know: Knowledge, sentAt: string, known: readonly Claim[]): Claim[] {
  if (!message.pictures.length) return [];
  const lines = message.pictures.flatMap((shown) => shown.split('\n')).map((text) => ({ text, start: 0 }));
  const { claims } = readSignature({ signature: lines, body: [], know, sentAt });
  return claims
    .filter((claim) => !known.some((one) => one.field === claim.field))
    .map(({ span: _, ...claim }) => ({ ...claim, source: 'a picture in the signature' }));
}

/** Addresses of the sender's own that they write in what they say. */
const saidEmails = (body: readonly Line[], know: Knowledge, known: readonly Claim[]): Claim[] =>
  know.name === ''
    ? []
    : body.slice(0, MOST_LINES).flatMap((line) =>
        findEmails(line.text)
          .filter(({ value }) => nameFitsLocalPart(know.name, localPart(value)))
          .filter(
            ({ value }) =>
              ![know.address, ...known.map((one) => one.value)]
                .map(normalizeEmail)
                .includes(normalizeEmail(value)),
          )
          .map(({ value, start, end }): Claim => ({
            field: 'email',
            value,
            normalized: normalizeEmail(value),
            confidence: 0.93,
            span: { part: 'text', start: line.start + start, end: line.start + end },
            source: 'what they wrote',
          })),
      );

/** What can be claimed of who sent a message that no person wrote: of a notice, only whose it is. */
function ofNature(claims: readonly Claim[], { nature, isBounce }: Message, shownName: string): Claim[] {
  if (isBounce) return [];
  if (nature === 'notice')
    return claims.filter((claim) => claim.field === 'companyName' || claim.field === 'url');
  if (nature !== 'newsletter' || isKnownName(shownName)) return [...claims];
  return claims.filter((claim) => ['companyName', 'email', 'url'].includes(claim.field));
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
  const ours = options.ours ?? [];
  const robots = readRobot(message, layers[0]?.lines ?? [], ours, options.country);
  const chosen: Chosen = robots
    ? { ...choosePerson(message, layers, []), handedOnBy: [] }
    : choosePerson(message, layers, ours);
  const notices = [...message.notices];
  if (chosen.handedOnBy.length)
    notices.push(`handed on by ${chosen.handedOnBy.map((one) => one.name || one.address).join(', then ')}`);
  if (!message.hasHeaders) notices.push('no message headers: read as plain text');
  const read = readClaims(
    message,
    chosen,
    options.receivedAt ?? '1970-01-01T00:00:00+00:00',
    options.currency,
  );
  const { intents, said, digest } = read;
  const claims = robots ?? read.claims;
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
      // What no person wrote has no mood.
      tone: said && !message.nature ? toneOf(said) : null,
    },
    notices,
  };
}

/** The HTML body behind a reading, for showing; null when the plain text was read. */
export async function htmlOf(raw: Uint8Array): Promise<string | null> {
  return (await takeApart(raw)).html;
}
