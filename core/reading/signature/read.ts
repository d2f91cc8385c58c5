import { findEmails, localPart, normalizeEmail, registrableDomain } from '../../people/emails';
import { companyFitsDomain } from '../../people/companies';
import { isRoleName, nameFitsLocalPart, parseName, stripTitles } from '../../people/names';
import { readPhone } from '../../people/phones';
import type { Line } from '../email/layers';
import type { Claim } from '../types';
import { likelyCountries } from './countries';
import { cutLine, type Piece } from './pieces';
import { tellRoles, type Knowledge, type Told } from './roles';

export interface SignatureInput {
  signature: readonly Line[];
  body: readonly Line[];
  know: Knowledge;
  sentAt: string | null;
}

const PROFILE =
  /\/(?:in|people|person|profile|profiles|member|members|u|user|users|pro)\/[^/]+|^(?:https?:\/\/)?(?:www\.)?rollcall\./i;
const SOCIAL =
  /(?:facebook|instagram|twitter|x|youtube|tiktok|threads|mastodon|pinterest|vimeo|whatsapp|wa|maps|goo|bit|calendly|zoom|teams|meet|linktr)\./i;
const CALL_ME =
  /\b(?:call|ring|phone|reach|mobile|number|text|whatsapp|tel|telefon|erreichen|erreichbar|handy|joindre|portable|telem[óo]vel|ligar|llamar|bellen|bereikbaar|nummer|chiamare)\b/iu;
const OTHERS_NUMBER =
  /\b(?:his|her|their|your|ihre|seine|colleague|kollege|supplier|office manager|assistant|driver|old|former|no longer|neighbour|competitor)\b/iu;

const asUrl = (written: string): string =>
  (/^https?:\/\//i.test(written) ? written : `https://${written}`)
    .replace(/\/+$/, '')
    .replace(/^(https?:\/\/[^/]+)/i, (host) => host.toLowerCase());

function phoneClaims(pieces: readonly Piece[], countries: readonly string[]): Claim[] {
  const claims: Claim[] = [];
  for (const piece of pieces) {
    if (piece.kind !== 'phone') continue;
    const read = readPhone(piece.value, countries);
    if (!read || claims.some((claim) => claim.normalized === read.normalized)) continue;
    const sure = /^(?:\+|00)/.test(piece.value.trim().replace(/^\(/, ''));
    const type =
      piece.label === 'work' && read.type === 'mobile' && !sure
        ? 'work'
        : (piece.label ?? read.type ?? 'work');
    claims.push({
      field: 'phone',
      value: piece.value.trim(),
      normalized: read.normalized,
      type,
      confidence: sure ? (read.valid || piece.label ? 0.97 : 0.85) : read.valid ? 0.92 : 0.7,
      span: { part: 'text', start: piece.start, end: piece.end },
      source: piece.label ? `signature, marked ${piece.label}` : 'signature',
    });
  }
  return claims;
}

/** Numbers in what the sender says, only where they say it is the way to reach them. */
function spokenPhones(body: readonly Line[], countries: readonly string[], known: readonly Claim[]): Claim[] {
  const claims: Claim[] = [];
  for (const line of body.slice(0, 400)) {
    if (!/\d{3}/.test(line.text) || line.text.length > 2000) continue;
    for (const piece of cutLine(line, 0)) {
      if (piece.kind !== 'phone') continue;
      const from = piece.start - line.start;
      const before = line.text.slice(Math.max(0, from - 60), from);
      if (!CALL_ME.test(before) || OTHERS_NUMBER.test(before)) continue;
      const read = readPhone(piece.value, countries);
      if (!read || [...known, ...claims].some((claim) => claim.normalized === read.normalized)) continue;
      claims.push({
        field: 'phone',
        value: piece.value,
        normalized: read.normalized,
        type: read.type ?? (/mob|cell|handy|text|whatsapp|telem/i.test(before) ? 'mobile' : 'work'),
        confidence: 0.85,
        span: { part: 'text', start: piece.start, end: piece.end },
        source: 'what they wrote',
      });
    }
  }
  return claims;
}

function addressClaim(told: readonly Told[]): Claim[] {
  const parts = told.filter((one) => one.role === 'address');
  const first = parts[0];
  if (!first) return [];
  const near = parts.filter(
    (one, index) => index === 0 || one.line - (parts[index - 1]?.line ?? one.line) <= 2,
  );
  const last = near.at(-1) ?? first;
  return [
    {
      field: 'address',
      value: near.map((one) => one.value).join(', '),
      confidence: Math.min(
        ...near.map((one) => one.confidence),
        near.some((one) => /\d/.test(one.value)) ? 0.95 : 0.7,
      ),
      span: { part: 'text', start: first.start, end: last.end },
      source: 'signature',
    },
  ];
}

const best = (told: readonly Told[], role: Told['role']): Told | undefined =>
  told
    .filter((one) => one.role === role)
    .reduce<Told | undefined>((top, one) => (!top || one.confidence > top.confidence ? one : top), undefined);

/** All claims of a signature, with the sender's name as written there (empty when it holds none). */
export function readSignature({ signature, body, know, sentAt }: SignatureInput): {
  claims: Claim[];
  name: Told | null;
  countries: string[];
} {
  const pieces = signature.flatMap((line, index) => (line.text.trim() ? cutLine(line, index) : []));
  const told = tellRoles(pieces, know);
  const phones = pieces.filter((piece) => piece.kind === 'phone').map((piece) => piece.value);
  const signatureText = signature.map((line) => line.text).join('\n');
  const countries = likelyCountries(
    signatureText,
    phones,
    know.domain,
    `${body.map((line) => line.text).join('\n')}\n${signatureText}`,
    sentAt,
  );
  const claims = phoneClaims(pieces, countries);
  claims.push(...spokenPhones(body, countries, claims));
  const text = (one: Told, field: Claim['field'], confidence = one.confidence): Claim => ({
    field,
    value: one.value,
    confidence,
    span: { part: 'text', start: one.start, end: one.end },
    source: 'signature',
  });
  const name = best(told, 'name') ?? null;
  const titles = told.filter((one) => one.role === 'title').sort((a, b) => b.confidence - a.confidence);
  const title = titles[0];
  if (title)
    claims.push(
      text(
        { ...title, value: stripTitles(title.value) },
        'jobTitle',
        name ? title.confidence : Math.min(title.confidence, 0.85),
      ),
    );
  const company = best(told, 'company');
  if (company) claims.push(text(company, 'companyName'));
  claims.push(...addressClaim(told), ...emailClaims(pieces, know), ...urlClaims(pieces, know));
  return { claims, name, countries };
}

function emailClaims(pieces: readonly Piece[], know: Knowledge): Claim[] {
  const claims: Claim[] = [];
  for (const piece of pieces) {
    if (piece.kind !== 'email' || normalizeEmail(piece.value) === normalizeEmail(know.address)) continue;
    const normalized = normalizeEmail(piece.value);
    if (claims.some((claim) => claim.normalized === normalized)) continue;
    const theirs = know.name !== '' && nameFitsLocalPart(know.name, localPart(piece.value));
    const house = isRoleName(localPart(piece.value));
    claims.push({
      field: 'email',
      value: piece.value,
      normalized,
      confidence: theirs ? 0.95 : house ? 0.72 : 0.75,
      span: { part: 'text', start: piece.start, end: piece.end },
      source: house ? 'signature, a shared mailbox' : 'signature',
    });
  }
  return claims;
}

function urlClaims(pieces: readonly Piece[], know: Knowledge): Claim[] {
  const claims: Claim[] = [];
  for (const piece of pieces) {
    if (piece.kind !== 'url' || SOCIAL.test(piece.value.replace(/^https?:\/\/(?:www\.)?/i, '').slice(0, 24)))
      continue;
    const normalized = asUrl(piece.value);
    const field = PROFILE.test(piece.value) ? 'profile' : 'url';
    if (
      claims.some(
        (claim) =>
          claim.field === field &&
          claim.normalized?.replace('://www.', '://') === normalized.replace('://www.', '://'),
      )
    )
      continue;
    const own = know.domain !== null && registrableDomain(piece.value) === know.domain;
    claims.push({
      field,
      value: piece.value,
      normalized,
      confidence: own ? 0.97 : field === 'profile' ? 0.9 : 0.8,
      span: { part: 'text', start: piece.start, end: piece.end },
      source: 'signature',
    });
  }
  return claims;
}

/** Small letters match capitals too; the `i` flag cannot be used where capitals themselves are the evidence. */
const anyCase = (words: string): string =>
  words.replace(/\p{Ll}/gu, (letter) => `[${letter}${letter.toUpperCase()}]`);
const FIRM = `(?:[Tt]he\\s+)?\\p{Lu}[\\p{L}\\d&'’-]*(?:\\s+(?:&|and|und|et|e|y|de|da|do|of|\\p{Lu}[\\p{L}\\d&'’-]*)){0,4}`;
const I_AM = anyCase(
  "my name is|this is|i am|i'm|i’m|mein name ist|ich bin|ich heiße|je m'appelle|je suis|chamo-me|o meu nome é|me llamo|mi nombre es|mijn naam is|ik ben|mi chiamo",
);
const I_WORK_AS = anyCase("i am|i'm|i’m|i work as|ich bin|je suis|sou|soy|ik ben|sono");
const WE_ARE = anyCase(
  "i run|i own|we are|we're|i work at|i work for|i'm from|i am from|writing from|writing on behalf of|on behalf of|here at|ich arbeite bei|wir sind|nous sommes|somos|somos a|wij zijn|siamo",
);
const INTRO_NAME = new RegExp(
  `(?<!\\p{L})(?:${I_AM})\\s+(\\p{Lu}[\\p{L}'’-]+(?:\\s+(?:\\p{Lu}[\\p{L}'’-]+|van|von|de|da|der|den|dos|di)){1,3})`,
  'gu',
);
const INTRO_ROLE = new RegExp(
  `(?<!\\p{L})(?:${I_WORK_AS})\\s+(?:(?:the|a|an|die|der|das|le|la|o|el|de|il)\\s+)?([\\p{L}][\\p{L} &-]{2,38}?)\\s+(?:at|of|for|with|bei|beim|von|vom|chez|de|du|des|del|della|da|do|bij|van|presso|en)\\s+(${FIRM})`,
  'gu',
);
const INTRO_FIRM = new RegExp(`(?<!\\p{L})(?:${WE_ARE})\\s+(${FIRM})`, 'gu');

const trimFirm = (firm: string): string =>
  firm.replace(/[.,;:]+$/, '').replace(/\s+(?:&|and|und|et|e|y|de|da|do|of)$/i, '');

/** What senders say of themselves in running text: "I'm the head baker at Coral Crumb". Used where the signature is silent. */
export function readIntroduction(body: readonly Line[], know: Knowledge): Claim[] {
  const claims: Claim[] = [];
  const add = (claim: Claim): void => {
    if (!claims.some((one) => one.field === claim.field)) claims.push(claim);
  };
  for (const line of body.slice(0, 60)) {
    if (line.text.length > 1500) continue;
    const claim = (field: Claim['field'], value: string, at: number, confidence: number): Claim => ({
      field,
      value,
      confidence,
      span: { part: 'text', start: line.start + at, end: line.start + at + value.length },
      source: 'how they introduce themselves',
    });
    for (const match of line.text.matchAll(INTRO_NAME)) {
      const name = match[1] ?? '';
      add(claim('fullName', name, match.index + match[0].length - name.length, know.name ? 0.5 : 0.8));
    }
    for (const match of line.text.matchAll(INTRO_ROLE)) {
      const [whole, role = '', firm = ''] = match;
      if (
        tellRoles([{ kind: 'text', value: role, start: 0, end: role.length, line: 0 }], know)[0]?.role !==
        'title'
      )
        continue;
      add(claim('jobTitle', role, match.index + whole.indexOf(role), 0.82));
      add(
        claim(
          'companyName',
          trimFirm(firm),
          match.index + whole.lastIndexOf(firm),
          know.domain && companyFitsDomain(firm, know.domain) ? 0.95 : 0.8,
        ),
      );
    }
    for (const match of line.text.matchAll(INTRO_FIRM)) {
      const firm = trimFirm(match[1] ?? '');
      const fits = know.domain !== null && companyFitsDomain(firm, know.domain);
      if (fits || parseName(firm).fullName.split(' ').length >= 2)
        add(claim('companyName', firm, match.index + match[0].indexOf(firm), fits ? 0.95 : 0.65));
    }
  }
  return claims.filter((claim) => !findEmails(claim.value).length);
}
