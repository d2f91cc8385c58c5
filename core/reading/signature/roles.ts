import { alternatives } from '../../words/compile';
import { addressLikeness, hasHouseShape, hasPostcode } from '../../people/addresses';
import { nameOverlap, stripTitles } from '../../people/names';
import { fold } from '../../people/text';
import type { Piece } from './pieces';
import { nameScore, scoreOf, type Knowledge, type Role } from './scores';
import { splitPiece, type TextPiece } from './split';
import { DEVICE_LINE, SMALL_PRINT, VALEDICTION, VALEDICTION_LEAD } from './words';

export interface Told {
  role: Role;
  value: string;
  start: number;
  end: number;
  line: number;
  confidence: number;
  isCut: boolean;
}

const LEAD_IN =
  /^(?:(?:for and )?on behalf of\s+|(?:for|für|pour|voor|för|para|per)\s+(?=\p{Lu})|im auftrag (?:von|der|des)\s+|(?:i\.\s?[av]\.|ppa\.|p\.\s?p\.|p\.\s?o\.|p\/o)\s+|(?:address|adresse|adress|morada|direcci[oó]n|adres|indirizzo|anschrift|a|visit us(?: at)?|find us(?: at)?)\s*[:.]\s*)/iu;
const SLOGAN = new RegExp(String.raw`[!?]$|\b(?:${alternatives('slogan')})\b`, 'iu');

/**
 * Decides what each piece of text in a signature is: the name, the title, the firm or a part of the address. Evidence
 * is the words themselves, the sender's name and domain, and, last, the order people write them in.
 */
export function tellRoles(pieces: readonly Piece[], know: Knowledge): Told[] {
  const texts = pieces
    .filter((piece): piece is TextPiece => piece.kind === 'text')
    .filter((piece) => !DEVICE_LINE.test(piece.value) && !SMALL_PRINT.test(piece.value))
    .filter((piece) => !(VALEDICTION.test(piece.value) && nameScore(piece.value, know) < 0.9))
    .map((piece) => {
      const leave = VALEDICTION_LEAD.exec(piece.value)?.[0].length ?? 0;
      const isLeave =
        leave > 0 && nameScore(piece.value.slice(leave).split(/,|\s[|•·-]\s/)[0] ?? '', know) >= 0.9;
      const label = isLeave ? leave : (LEAD_IN.exec(piece.value)?.[0].length ?? 0);
      return label ? { ...piece, value: piece.value.slice(label), start: piece.start + label } : piece;
    })
    .flatMap((piece) => splitPiece(piece, know))
    .filter((piece) => stripTitles(`Somebody, ${piece.value}`) !== 'Somebody');
  const told: Told[] = [];
  const open: TextPiece[] = [];
  for (const [index, piece] of texts.entries()) {
    const scores = scoreOf(piece.value, know);
    if (hasHouseShape(piece.value) && hasPostcode(texts[index + 1]?.value ?? '') && scores.company < 0.94) {
      told.push(tell(piece, 'address', 0.9));
      continue;
    }
    const [role, confidence] = (Object.entries(scores) as [Role, number][]).reduce((best, one) =>
      one[1] > best[1] ? one : best,
    );
    const isFuller = role === 'name' && piece.value.includes(' ');
    const lone = told.findIndex(
      (one) => one.role === 'name' && one.confidence < 0.9 && !/\s/.test(one.value),
    );
    if (isFuller && lone >= 0) told.splice(lone, 1);
    const isLateName = role === 'name' && confidence < 0.9 && told.length > 0;
    if (confidence === 0 || isLateName) open.push(piece);
    else told.push(tell(piece, role, confidence));
  }
  const name = fullest(told);
  const company = surest(told, 'company');
  const others = told.filter(
    (one) =>
      (one.role === 'name' && one !== name && nameOverlap(one.value, name?.value ?? '') < 0.99) ||
      (one.role === 'company' && one.confidence < 0.9 && (company?.confidence ?? 0) >= 0.94),
  );
  const kept = told.filter((one) => !others.includes(one));
  const left = [...open, ...texts.filter((piece) => others.some((other) => other.start === piece.start))];
  left.sort((a, b) => a.start - b.start);
  const places = besideAddress(left, kept);
  const rest = left.filter((piece) => !places.some((place) => place.start === piece.start));
  const lines = [...new Set(texts.map((piece) => piece.line))];
  const nameLines = kept.filter((one) => one.role === 'name').map((one) => one.line);
  const below = (line: number): number => {
    const above = nameLines.filter((one) => one <= line).at(-1);
    return above === undefined ? -1 : lines.indexOf(line) - lines.indexOf(above);
  };
  const under = underName(rest, kept, below);
  return [...kept, ...places, ...under].sort((a, b) => a.start - b.start);
}

const tell = (piece: TextPiece, role: Role, confidence: number): Told => ({
  role,
  confidence,
  value: piece.value,
  start: piece.start,
  end: piece.end,
  line: piece.line,
  isCut: piece.isCut === true,
});

/** The surest piece of one role, the first of equals; undefined when there is none. */
export const surest = (told: readonly Told[], role: Role): Told | undefined =>
  told
    .filter((one) => one.role === role)
    .reduce<Told | undefined>((top, one) => (!top || one.confidence > top.confidence ? one : top), undefined);

/** The sender's name in its fullest form: "Aisha" above the block, "Aisha Rahman-Cole" in it. */
export function fullest(told: readonly Told[]): Told | undefined {
  const first = surest(told, 'name');
  if (!first) return undefined;
  const same = told.filter((one) => one.role === 'name' && nameOverlap(one.value, first.value) >= 0.99);
  return same.reduce((top, one) => (one.value.split(' ').length > top.value.split(' ').length ? one : top));
}

const PLACE = /^\p{Lu}[\p{L}'’. -]{2,30}$/u;

/** Parts of an address that no word gives away: a street beside its post code, towns and counties between the lines. */
function besideAddress(open: readonly TextPiece[], told: readonly Told[]): Told[] {
  const parts = told.filter((one) => one.role === 'address');
  const isPart = (piece: TextPiece): boolean => {
    if (addressLikeness(piece.value) >= 0.5 && parts.some((part) => Math.abs(part.line - piece.line) <= 2))
      return true;
    const later = parts.filter((part) => part.start > piece.start);
    if (hasHouseShape(piece.value))
      return later.some((one) => hasPostcode(one.value) && one.line - piece.line <= 1);
    const between =
      parts.some((part) => part.start < piece.start && piece.line - part.line <= 3) &&
      later.some((one) => one.line - piece.line <= 3);
    return between && PLACE.test(piece.value) && piece.value.split(' ').length <= 3;
  };
  return open.filter(isPart).map((piece) => tell(piece, 'address', 0.85));
}

/** The line under the name is a title or a firm, even where no word says so. */
function underName(
  open: readonly TextPiece[],
  told: readonly Told[],
  below: (line: number) => number,
): Told[] {
  const plausible = open.filter(
    ({ value, line }) =>
      addressLikeness(value) === 0 &&
      !SLOGAN.test(value) &&
      !/[.!?:]$/.test(value) &&
      value.split(' ').length <= 6 &&
      (/^[\p{Lu}\d]/u.test(value) || below(line) === 0) &&
      fold(value).length >= 3 &&
      below(line) >= 0 &&
      below(line) <= 3,
  );
  const has = (role: Role): boolean => told.some((one) => one.role === role);
  const [first, second] = plausible;
  if (!first) return [];
  if (has('company') && has('title')) return [];
  if (has('company')) return below(first.line) <= 1 ? [tell(first, 'title', 0.6)] : [];
  if (has('title')) return [tell(first, 'company', 0.8)];
  if (plausible.length === 1) return [tell(first, 'company', 0.55)];
  return second && plausible.length === 2 ? [tell(first, 'title', 0.55), tell(second, 'company', 0.55)] : [];
}
