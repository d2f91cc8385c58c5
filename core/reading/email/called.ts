import { localPart } from '../../people/emails';
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
import { fold, squash } from '../../people/text';
import { isKnownName, isPersonName } from '../page/names';
import type { Told } from '../signature/roles';
import { titleLikeness } from '../signature/words';
import type { Claim, Mailbox, Span } from '../types';

interface Shown {
  name: string;
  company: string;
}

/** Parts "Ines Duarte (Padaria Sol)", "Ines at Padaria Sol", "Ines Duarte | Padaria Sol", "Padaria Sol - Ines Duarte". */
export function readDisplayName(mailbox: Mailbox | null, domain: string | null): Shown {
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
  const isFirms =
    domain !== null && companyFitsDomain(text, domain) && !(isPersonName(text) && isKnownName(text));
  if ((companyLikeness(text) >= 0.7 || isLabel || isFirms) && !nameFitsLocalPart(text, local))
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

export function fullNameClaim(
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
