import { isEmail, normalizeEmail } from '../../people/emails';
import { readPhone } from '../../people/phones';
import { cutLine } from '../signature/pieces';
import { dictatedNumbers } from './dictated';
import type { Claim } from '../types';

type PhonePiece = Extract<ReturnType<typeof cutLine>[number], { kind: 'phone' }>;

const asUrl = (written: string): string =>
  (/^https?:\/\//i.test(written) ? written : `https://${written}`).replace(/\/+$/, '');

/** "una (at) peakespantry.example", "priya at saffronlane dot example". */
const MASKED =
  /(?<![\p{L}\p{N}@])(?<local>[\p{L}\p{N}][\p{L}\p{N}._+-]{0,40})\s?(?:[([{]\s?(?:at|ät|@|arroba|chez|bei)\s?[)\]}]|\s(?:at|ät)(?=\s\S+(?:\s(?:dot|punkt|punt)\s\S+))|\s(?:arroba|arobase|chiocciola)(?=\s\S+(?:\s(?:point|punto|ponto)\s\S+)))\s?(?<domain>[\p{L}\p{N}-]+(?:(?:\s?[([{]\s?(?:dot|punkt|\.)\s?[)\]}]\s?|\s(?:dot|punkt|point|punto|ponto|punt)\s|\.)[\p{L}\p{N}-]+){1,3})/giu;
const DOT = /\s?[([{]\s?(?:dot|punkt|\.)\s?[)\]}]\s?|\s(?:dot|punkt|point|punto|ponto|punt)\s/giu;

/** Addresses that are spoken or masked, written as they are meant. */
function maskedEmails(text: string): Claim[] {
  return [...text.matchAll(MASKED)].flatMap((match): Claim[] => {
    const { local = '', domain = '' } = match.groups ?? {};
    const value = `${local}@${domain.replace(DOT, '.')}`.toLowerCase();
    return isEmail(value)
      ? [
          {
            field: 'email',
            value,
            normalized: normalizeEmail(value),
            confidence: 0.85,
            span: { part: 'text', start: match.index, end: match.index + match[0].length },
            source: 'the note',
          },
        ]
      : [];
  });
}

const KIN =
  'assistant|pa|ea|secretary|brother|sister|wife|husband|son|daughter|mother|father|boss|colleague|partner|neighbour|neighbor|deputy|accountant|assistentin|sekretärin|frau|mann|bruder|schwester|tochter|chef|kollege|kollegin|assistante|mari|femme|frère|sœur|fils|collègue|hermano|hermana|mujer|marido|hijo|hija|jefe|irmão|irmã|filho|filha|chefe|fratello|sorella|moglie|marito|capo|broer|zus|vrouw|zoon|dochter|baas';
/** What stands before a number or an address that is somebody else's, or no longer in use. */
const OTHERS_BEFORE = new RegExp(
  `(?:\\b(?:old|former|previous|wrong|alte|ancien|antiguo|antigo|vecchio|oude)\\s(?:one|number|mobile|mob|phone|address|nummer|numéro|número|numero)?|\\b(?:not|nicht|pas|niet|inte|ikke|don'?t use|never)\\s(?:on\\s)?(?:his|her|their|the|my)?\\s?(?:mobile|mob|cell|office|home|number|email|old one)?|\\b(?:his|her|their|sein|ihr|son|sa|su|seu|sua|zijn|haar)e?\\s(?:new\\s)?(?:${KIN})(?:'s|’s)?(?:\\s\\p{L}+)?)\\s?(?:is|ist|est|es|é|:)?\\s?(?:on|at|unter|au|en)?\\s*$`,
  'iu',
);
const OTHERS_BEHIND =
  /^[\s,)]*(?:is (?:dead|wrong|old|no longer)|no longer|(?:but\s)?(?:dont|don'?t|do not|never) use|that'?s (?:his|her|their)|belongs to)/iu;

const isOthers = (text: string, { start, end }: { start: number; end: number }): boolean =>
  OTHERS_BEFORE.test(text.slice(Math.max(0, start - 60), start)) ||
  OTHERS_BEHIND.test(text.slice(end, end + 40));

const STRANGERS = ['GB', 'PT', 'DE', 'FR', 'NL', 'ES', 'IE', 'BE'];

/** The longest beginning of what was taken for a number that is one where the note was written: "0491 570 156. 80 stems". */
function ownNumber(written: string, country: string): string {
  const groups = [...written.matchAll(/\d+/g)].map((match) => match.index + match[0].length);
  const ends = groups.reverse().map((end) => written.slice(0, end));
  return ends.find((one) => readPhone(one, [country])?.valid) ?? written;
}

function phoneClaim(piece: PhonePiece, country: string | undefined): Claim[] {
  const value = country ? ownNumber(piece.value, country) : piece.value;
  const own = country ? readPhone(value, [country]) : null;
  const read = own?.valid ? own : (readPhone(value, STRANGERS) ?? own);
  if (!read || (!piece.label && !read.valid && !/^[+0]/.test(value))) return [];
  const stated = piece.label === 'phone' ? null : piece.label;
  const sure = value.trim().startsWith('+') || value.trim().startsWith('00');
  return [
    {
      field: 'phone',
      value: value.trim(),
      normalized: read.normalized,
      type: stated ?? read.type ?? 'work',
      confidence: sure ? 0.96 : read === own && read.valid ? 0.9 : 0.6,
      span: { part: 'text', start: piece.start, end: piece.start + value.length },
      source: 'the note',
    },
  ];
}

/** Numbers that a note spells out in words, where such a number is possible. */
const dictatedPhones = (text: string, country: string | undefined): Claim[] =>
  dictatedNumbers(text).flatMap(({ start, ...said }): Claim[] => {
    const own = [said, ...(said.shorter ?? [])].find(
      ({ digits }) => country && readPhone(digits, [country])?.valid,
    );
    const { digits, end } = own ?? said;
    const read = readPhone(digits, country ? [country, ...STRANGERS] : STRANGERS);
    return read
      ? [
          {
            field: 'phone',
            value: text.slice(start, end),
            normalized: read.normalized,
            type: read.type ?? 'work',
            confidence: 0.8,
            span: { part: 'text', start, end },
            source: 'the note',
          },
        ]
      : [];
  });

/**
 * The addresses, links and numbers in a note, each once; not those that it says are somebody else's or no longer in use.
 * @param country ISO 3166-1 of where it was written, for numbers without a country code
 */
export function contactClaims(text: string, country: string | undefined): Claim[] {
  const claims: Claim[] = [...maskedEmails(text), ...dictatedPhones(text, country)];
  let start = 0;
  // Between commas, so that nothing in a long sentence is taken for the small print of a letter.
  for (const line of text.split(/\n|(?<=[,;])\s/)) {
    const pieces = line.length > 2000 ? [] : cutLine({ text: line, start }, 0, false);
    for (const piece of pieces) {
      const span: Claim['span'] = { part: 'text', start: piece.start, end: piece.end };
      const { value } = piece;
      if (piece.kind === 'email')
        claims.push({
          ...{ field: 'email', value, normalized: normalizeEmail(value) },
          ...{ confidence: 0.95, span, source: 'the note' },
        });
      else if (
        piece.kind === 'url' &&
        !claims.some((one) => one.span && one.span.end >= piece.end && one.span.start <= piece.start)
      )
        claims.push({
          ...{ field: 'url', value, normalized: asUrl(value) },
          ...{ confidence: 0.85, span, source: 'the note' },
        });
      else if (piece.kind === 'phone') claims.push(...phoneClaim(piece, country));
    }
    start += line.length + 1;
  }
  return claims.filter(
    (claim, index) =>
      !(claim.span && isOthers(text, claim.span)) &&
      claims.findIndex((one) => one.field === claim.field && one.normalized === claim.normalized) === index,
  );
}
