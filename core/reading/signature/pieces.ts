import { addressLikeness } from '../../people/addresses';
import { companyLikeness } from '../../people/companies';
import { findEmails } from '../../people/emails';
import type { Line } from '../email/layers';
import { isSmallPrint, labelOf, titleLikeness, type PhoneLabel } from './words';

export type Piece =
  | { kind: 'email' | 'url'; value: string; start: number; end: number; line: number }
  | {
      kind: 'phone';
      value: string;
      start: number;
      end: number;
      line: number;
      label: PhoneLabel | null;
    }
  | { kind: 'text'; value: string; start: number; end: number; line: number };

const URL =
  /(?:https?:\/\/[^\s<>"'|•·]+|www\.[^\s<>"'|•·,;]+|(?<![\p{L}\p{N}@._-])(?:[\p{L}\p{N}][\p{L}\p{N}-]*\.)+(?:example|com|org|net|info|biz|shop|bike|eu|coop|co\.uk|org\.uk|gov\.uk|com\.au|co\.nz|ie|uk|de|at|ch|fr|nl|be|pt|es|it|dk|se|no|fi|pl|cz|us|ca|au|nz|io|cafe|city)(?:\/[^\s<>"'|•·,;]*)?(?![\p{L}\p{N}@-]))/giu;
const NUMBER =
  /(?<![\p{L}\p{N}@._/])(?:\+|\(\s*\+|00)?\(?\d[\d\u00a0 ().\-/–‑]{4,48}\d(?:\s*(?:ext\.?|extension|x|#|dw|durchwahl)\s*\d{1,6})?(?![\p{L}\p{N}@])/giu;
const LABEL_BEFORE =
  /(?:^|[\s|•·,;/(])((?:tel\.?|tél\.?|direct|phone|mobile|cell|home|office)\s(?:direct|dial|line|phone|no|nr|mobil|móvil)\.?|[\p{L}@☎📞✆📱✉📧🌐📠📍][\p{L}@&/-]{0,14}\.?)\s*(?:\((?:[\p{L} ]{1,14})\))?\s*[:.=>)]*\s*$/iu;
const SEPARATOR =
  /\s*[|•·▪◦●■‖¦›]\s*|\s+»\s+|\s*\/\/\s*|\s{3,}|\t+|\s+[–—-]+\s+|\s+\/\s+|\s*;\s+|\s*\*{1,3}\s*|\s*~\s*/g;

/** The stretches of a text that are written like telephone numbers. */
export const numbersIn = (text: string): string[] =>
  [...text.matchAll(NUMBER)].map((match) => match[0].trim());

const isPhoneLabel = (label: ReturnType<typeof labelOf>): label is PhoneLabel =>
  label !== null && label !== 'email' && label !== 'url' && label !== 'address';

interface Taken {
  start: number;
  end: number;
}

const digits = (text: string): number => text.replace(/\D/g, '').length;

/** Dates, post codes, opening hours and prices have the shape of short phone numbers; numbers of a house have not. */
function isNumberLike(value: string, before: string, after: string, label: string | null): boolean {
  const count = digits(value);
  if (count < 6 || count > 17) return false;
  if (/^\d{1,2}[./-]\d{1,2}[./-]\d{2,4}$/.test(value.trim()) || /^\d{4}-\d{2}-\d{2}/.test(value))
    return false;
  if (/^\d{4}\s*[-–]\s*\d{4}$/.test(value.trim()) && !label) return false;
  if (
    /(?:€|\$|£|eur|usd|gbp|nr|no|hrb|vat|id|siret|nif|kvk|btw|iban|ust)\.?[:\s]*$/i.test(before) &&
    label === null
  )
    return false;
  if (/^\s*(?:€|\$|£|eur\b|usd\b|gbp\b|kg\b|km\b)/i.test(after)) return false;
  if (/^\d{5,8}$/.test(value) && !label) return false;
  return label !== null || /^[+(0]/.test(value.trim()) || count >= 8;
}

/**
 * Cuts one line of a signature into its pieces: addresses, links, numbers with the label that stands before them, and
 * what is left between them, parted at bars, bullets, tabs and dashes. Each keeps its place in the body.
 * @param hasSmallPrint whether a long line with words of the law in it is none of the signature
 */
export function cutLine(line: Line, index: number, hasSmallPrint = true): Piece[] {
  const { text } = line;
  if (hasSmallPrint && isSmallPrint(text) && text.length > 60) return [];
  const pieces: Piece[] = [];
  const taken: Taken[] = [];
  const free = (start: number, end: number): boolean =>
    taken.every((one) => end <= one.start || start >= one.end);
  const at = (start: number, end: number): { start: number; end: number; line: number } => ({
    start: line.start + start,
    end: line.start + end,
    line: index,
  });
  for (const found of findEmails(text)) {
    taken.push({ start: found.start, end: found.end });
    pieces.push({ kind: 'email', value: found.value, ...at(found.start, found.end) });
  }
  for (const match of text.matchAll(URL)) {
    const value = match[0].replace(/[.,;:)\]>]+$/, '');
    const end = match.index + value.length;
    if (!free(match.index, end)) continue;
    taken.push({ start: match.index, end });
    pieces.push({ kind: 'url', value, ...at(match.index, end) });
  }
  let lastLabel: PhoneLabel | null = null;
  let lastEnd = -9;
  for (const match of text.matchAll(NUMBER)) {
    let { index: start } = match;
    let value = match[0].replace(/[\s(./–-]+$/, '');
    const lead = /^[\s./–-]+/.exec(value)?.[0].length ?? 0;
    start += lead;
    value = value.slice(lead);
    for (const part of splitNumbers(value, start)) {
      const before = text.slice(0, part.start);
      const word = LABEL_BEFORE.exec(before)?.[1] ?? '';
      const named = word ? labelOf(word) : null;
      const both = /tel\s*\/\s*fax|t\/f/i.test(before.slice(-10));
      let label = isPhoneLabel(named) ? named : null;
      const inBrackets =
        /^\s*\(?\s*(mobile|mobil|cell|office|work|fax|home|direct|m|t|f|tel|mob)\s*\)?/i.exec(
          text.slice(part.end),
        );
      const after = inBrackets?.[1] ? labelOf(inBrackets[1]) : null;
      if (!label && isPhoneLabel(after) && /^\s*[([]/.test(text.slice(part.end))) label = after;
      if (!label && part.start - lastEnd <= 4) label = lastLabel;
      if (both) label = 'work';
      if (!free(part.start, part.end) || !isNumberLike(part.value, before, text.slice(part.end), label))
        continue;
      if (!label && addressLikeness(text) >= 1 && !/^[+(]|^0/.test(part.value) && digits(part.value) < 8)
        continue;
      taken.push({ start: part.start, end: part.end });
      pieces.push({ kind: 'phone', value: part.value, label, ...at(part.start, part.end) });
      lastLabel = label;
      lastEnd = part.end;
    }
  }
  taken.sort((a, b) => a.start - b.start);
  let from = 0;
  for (const gap of [...taken, { start: text.length, end: text.length }]) {
    pieces.push(...cutText(text.slice(from, gap.start), line.start + from, index));
    from = gap.end;
  }
  return pieces.sort((a, b) => a.start - b.start);
}

/** Two numbers written with only a slash or a wide gap between them. */
function splitNumbers(value: string, start: number): { value: string; start: number; end: number }[] {
  const gap =
    /\s+\/\s+(?=[+0(])|\s{2,}(?=[+0(])|\s(?=\+)|\s+[–-]\s+(?=\+)/.exec(value) ??
    [...value.matchAll(/\s+\/\s+|\s{2,}|\s+[–-]\s+/g)].find(
      (one) => digits(value.slice(0, one.index)) >= 8 && digits(value.slice(one.index)) >= 8,
    );
  if (!gap || digits(value.slice(0, gap.index)) < 6) return [{ value, start, end: start + value.length }];
  const rest = gap.index + gap[0].length;
  return [
    { value: value.slice(0, gap.index), start, end: start + gap.index },
    ...splitNumbers(value.slice(rest), start + rest),
  ];
}

/** "Sr. Manager - Procurement", "Owner / Baker": one title, whatever stands between its halves. */
function isWithinTitle(text: string, from: number, at: number, separator: string): boolean {
  if (!/[/–—-]/.test(separator) || separator.includes('//')) return false;
  const left = text.slice(from, at).replace(/^[\s–—-]+/, '');
  const rest = text.slice(at + separator.length);
  const right = rest.slice(0, rest.search(SEPARATOR) < 0 ? rest.length : rest.search(SEPARATOR));
  return (
    [left, right].every((half) => half.split(/\s+/).length <= 4 && titleLikeness(half) > 0) &&
    (companyLikeness(right) === 0 || !/\s/.test(right.trim()))
  );
}

function cutText(text: string, start: number, line: number): Piece[] {
  const pieces: Piece[] = [];
  let from = 0;
  const push = (until: number): void => {
    const raw = text.slice(from, until);
    let value = raw.replace(/^[\s,;:<([*_"'–—|>.-]+/u, '');
    const lead = raw.length - value.length;
    value = value.replace(/[\s,;:<>([*_"'–—|]+$/u, '').replace(/(?<=\p{L}{4})\.$/u, '');
    if (value.endsWith(')') && !value.includes('(')) value = value.slice(0, -1);
    const label = labelOf(value);
    if (/\p{L}/u.test(value) && value.length > 1 && label === null)
      pieces.push({
        kind: 'text',
        value,
        start: start + from + lead,
        end: start + from + lead + value.length,
        line,
      });
  };
  for (const match of text.matchAll(SEPARATOR)) {
    if (isWithinTitle(text, from, match.index, match[0])) continue;
    push(match.index);
    from = match.index + match[0].length;
  }
  push(text.length);
  return pieces;
}
