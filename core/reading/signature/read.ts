import { bareUrl, isPageOfASite, isProfileUrl } from '../links';
import { alternatives } from '../../words/compile';
import { hasHouseShape, hasPostcode, hasStreet } from '../../people/addresses';
import { localPart, normalizeEmail, registrableDomain } from '../../people/emails';
import { isRoleName, nameFitsLocalPart, nameOverlap } from '../../people/names';
import { readPhone } from '../../people/phones';
import { givenName } from '../lexicon/names';
import type { Line } from '../email/layers';
import type { Claim } from '../types';
import { voteCountries } from './countries';
import { cutLine, type Piece } from './pieces';
import { fullest, surest, tellRoles, type Told } from './roles';
import type { Knowledge } from './scores';

/** What was cut out of a longer piece is good, but below the confidence at which one in a hundred may be wrong. */
const SURE_OF_A_CUT = 0.88;

export interface SignatureInput {
  signature: readonly Line[];
  body: readonly Line[];
  know: Knowledge;
  sentAt: string | null;
}

const CALL_ME = new RegExp(String.raw`(?<!\p{L})(?:${alternatives('callMe')})(?!\p{L})`, 'iu');
const OTHERS_NUMBER =
  /\b(?:his|her|their|your|ihre|seine|colleague|kollege|supplier|office manager|assistant|driver|old|former|no longer|neighbour|competitor)\b/iu;

const asUrl = (written: string): string =>
  (/^https?:\/\//i.test(written) ? written : `https://${written}`)
    .replace(/\/+$/, '')
    .replace(/^(https?:\/\/[^/]+)/i, (host) => host.toLowerCase());

/** By how much the likeliest country must lead for a number without a country code to be sure. */
const CLEAR_VOTE = 2;

function phoneClaims(pieces: readonly Piece[], countries: readonly string[], isGuess: boolean): Claim[] {
  const claims: Claim[] = [];
  for (const piece of pieces) {
    if (piece.kind !== 'phone') continue;
    const read = readPhone(piece.value, countries);
    if (!read || claims.some((claim) => claim.normalized === read.normalized)) continue;
    if (!piece.label && !read.valid && /^\d+$/.test(piece.value)) continue;
    const sure = /^(?:\+|00)/.test(piece.value.trim().replace(/^\(/, ''));
    const stated = piece.label === 'phone' ? null : piece.label;
    const type = stated ?? read.type ?? 'work';
    const kindIsGuessed =
      (stated ?? read.type) === null ||
      (read.type === 'mobile' && piece.label !== null && stated !== 'mobile');
    claims.push({
      field: 'phone',
      value: piece.value.trim(),
      normalized: read.normalized,
      type,
      confidence: Math.min(
        sure ? (read.valid || piece.label ? 0.97 : 0.85) : read.valid ? 0.92 : 0.7,
        kindIsGuessed || (isGuess && !sure) ? 0.88 : 1,
      ),
      span: { part: 'text', start: piece.start, end: piece.end },
      source: piece.label ? `signature, marked ${piece.label}` : 'signature',
    });
  }
  return claims;
}

type PhonePiece = Extract<Piece, { kind: 'phone' }>;
interface Spoken {
  piece: PhonePiece;
  /** The words that lead up to the number. */
  before: string;
}

/** Numbers in what the sender says, only where they say it is the way to reach them. */
function findSpoken(body: readonly Line[]): Spoken[] {
  return body
    .slice(0, 400)
    .filter((line) => line.text.length <= 2000 && /(?:\d\D{0,2}){6}/.test(line.text))
    .flatMap((line) =>
      cutLine(line, 0)
        .filter((piece): piece is PhonePiece => piece.kind === 'phone')
        .map((piece) => {
          const from = piece.start - line.start;
          return { piece, before: line.text.slice(Math.max(0, from - 60), from) };
        }),
    )
    .filter(({ before }) => CALL_ME.test(before) && !OTHERS_NUMBER.test(before));
}

function spokenPhones(
  spoken: readonly Spoken[],
  countries: readonly string[],
  known: readonly Claim[],
): Claim[] {
  const claims: Claim[] = [];
  for (const { piece, before } of spoken) {
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
  return claims;
}

/** A street and a post code together are a whole address; one without the other may be cut short. */
function addressConfidence(parts: readonly Told[]): number {
  if (!parts.some((part) => /\d/.test(part.value))) return 0.7;
  const whole =
    parts.some((part) => hasPostcode(part.value)) &&
    parts.some((part) => hasStreet(part.value) || (hasHouseShape(part.value) && !hasPostcode(part.value)));
  return whole ? 0.95 : 0.85;
}

function addressClaim(told: readonly Told[]): Claim[] {
  const parts = told.filter((one) => one.role === 'address');
  const first = parts[0];
  if (!first) return [];
  const near = parts.filter(
    (part, index) => index === 0 || part.line - (parts[index - 1]?.line ?? part.line) <= 2,
  );
  const last = near.at(-1) ?? first;
  return [
    {
      field: 'address',
      value: near.map((one) => one.value).join(', '),
      confidence: Math.min(...near.map((one) => one.confidence), addressConfidence(near)),
      span: { part: 'text', start: first.start, end: last.end },
      source: 'signature',
    },
  ];
}

/** All claims of a signature, with the sender's name as written there (empty when it holds none). */
export function readSignature({ signature, body, know, sentAt }: SignatureInput): {
  claims: Claim[];
  name: Told | null;
  countries: string[];
} {
  const pieces = withoutSecond(
    signature.flatMap((line, index) => (line.text.trim() ? cutLine(line, index) : [])),
    know,
  );
  const told = tellRoles(pieces, know);
  const spoken = findSpoken(body);
  const phones = [
    ...pieces.filter((piece) => piece.kind === 'phone'),
    ...spoken.map(({ piece }) => piece),
  ].map((piece) => piece.value);
  const signatureText = signature.map((line) => line.text).join('\n');
  const votes = voteCountries(
    signatureText,
    phones,
    know.domain,
    `${body.map((line) => line.text).join('\n')}\n${signatureText}`,
    sentAt,
  );
  const countries = votes.map(([country]) => country);
  const isGuess = (votes[0]?.[1] ?? 0) - (votes[1]?.[1] ?? 0) < CLEAR_VOTE;
  const claims = phoneClaims(pieces, countries, isGuess);
  claims.push(...spokenPhones(spoken, countries, claims));
  const text = (one: Told, field: Claim['field'], confidence = one.confidence): Claim => ({
    field,
    value: one.value,
    confidence: one.isCut ? Math.min(confidence, SURE_OF_A_CUT) : confidence,
    span: { part: 'text', start: one.start, end: one.end },
    source: 'signature',
  });
  const name = fullest(told) ?? null;
  const titles = told.filter((one) => one.role === 'title').sort((a, b) => b.confidence - a.confidence);
  const title = titles[0];
  if (title)
    claims.push(
      text(
        { ...title, value: title.value.replace(/^(?:dr|prof|ing|dipl)\.[\s-]*/i, '') },
        'jobTitle',
        name ? title.confidence : Math.min(title.confidence, 0.85),
      ),
    );
  const company = surest(told, 'company');
  if (company) claims.push(text(company, 'companyName'));
  claims.push(...addressClaim(told), ...emailClaims(pieces, know), ...urlClaims(pieces, know));
  return { claims, name, countries };
}

/** "Elspeth 07700 900583 | Jim 07700 900584": the given name of a second person, and the number beside it. */
function withoutSecond(pieces: readonly Piece[], know: Knowledge): Piece[] {
  const isSecond = (piece: Piece | undefined, next: Piece | undefined): boolean =>
    piece?.kind === 'text' &&
    next?.kind === 'phone' &&
    next.line === piece.line &&
    know.name !== '' &&
    /^\p{Lu}\p{L}+$/u.test(piece.value) &&
    givenName(piece.value) === 2 &&
    nameOverlap(piece.value, know.name) === 0;
  return pieces.filter((piece, at) => !isSecond(piece, pieces[at + 1]) && !isSecond(pieces[at - 1], piece));
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
    if (piece.kind !== 'url') continue;
    const normalized = asUrl(piece.value);
    const field = isProfileUrl(piece.value) ? 'profile' : 'url';
    if (
      claims.some((claim) => claim.field === field && bareUrl(claim.normalized ?? '') === bareUrl(normalized))
    )
      continue;
    const own = know.domain !== null && registrableDomain(piece.value) === know.domain;
    if (field === 'url' && !own && isPageOfASite(normalized)) continue;
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
