import { addressLikeness } from '../../people/addresses';
import { companyFitsDomain, companyLikeness, LEGAL_FORM } from '../../people/companies';
import { looksLikeName, nameOverlap } from '../../people/names';
import type { Piece } from './pieces';
import { companyScore, namesDomain, nameScore, titleScore, type Knowledge } from './scores';
import { titleLikeness } from './words';

export type TextPiece = Extract<Piece, { kind: 'text' }> & {
  /** Cut out of a longer piece: where to cut was a judgement, so what it says is never quite sure. */
  isCut?: true;
};

const JOINER = /^(.{2,60}?)\s*(?:,?\s+(?:at|bei|chez|bij|@|presso)\s+|\s*@\s*)(.{2,60})$/iu;
const OF_FIRM = /^(.{2,40}?)\s+(?:of|von|de|da|do|van)\s+(.{2,60})$/iu;
const IN_BRACKETS = /^(.{2,50}?)\s*\(([^()]{2,60})\)$/u;

const TWO_NAMES = /^(.{3,40}?)\s+(?:&|and|und|et|y|e|en|og|och|i|a)\s+(.{3,40})$/u;

/** Of two people who sign together, the one who sends: "Alma Whitby & Jonty Rowe", "Joris en Pim Veldkamp"; else null. */
export function ownOfTwo(text: string, name: string): string | null {
  const [, left = '', right = ''] = TWO_NAMES.exec(text) ?? [];
  if (!name || !looksLikeName(left) || !looksLikeName(right) || companyLikeness(text) > 0) return null;
  const isWhole = (half: string): boolean => half.includes(' ') && nameOverlap(half, name) >= 0.99;
  if (isWhole(left) || isWhole(right)) return isWhole(left) ? left : right;
  const [given = '', family = ''] = [name.split(' ')[0], name.split(' ').at(-1)];
  return left === given && right.includes(' ') && right.endsWith(` ${family}`) ? left : null;
}

/** "Buyer at Padaria Sol", "Ines Duarte, Buyer, Padaria Sol": cut where the parts mean more than the whole. */
export function splitPiece(piece: TextPiece, know: Knowledge): TextPiece[] {
  const cut = (at: number, length: number): TextPiece[] => {
    const left = piece.value.slice(0, at).trimEnd();
    const from = at + length;
    return [
      { ...piece, value: left, end: piece.start + left.length, isCut: true },
      ...splitPiece(
        { ...piece, value: piece.value.slice(from), start: piece.start + from, isCut: true },
        know,
      ),
    ];
  };
  if (addressLikeness(piece.value) >= 1) {
    const comma = piece.value.indexOf(', ');
    const head = piece.value.slice(0, comma);
    if (
      comma > 0 &&
      addressLikeness(head) === 0 &&
      !/^\d/.test(head) &&
      (nameScore(head, know) >= 0.9 || companyScore(head, know) >= 0.9)
    )
      return cut(comma, 2);
    return [piece];
  }
  if (
    know.name &&
    nameOverlap(piece.value, know.name) >= 0.99 &&
    piece.value.split(/[\s,]+/).length <= know.name.split(/[\s,]+/).length + 1 &&
    looksLikeName(piece.value) &&
    titleLikeness(piece.value) === 0
  )
    return [piece];
  const own = ownOfTwo(piece.value, know.name);
  if (own) return [{ ...piece, value: own, start: piece.start + piece.value.indexOf(own) }];
  // "購買課長 田中 由美": a post before the name, with nothing but a space between.
  const named = know.name.length > 1 ? piece.value.indexOf(know.name) : -1;
  if (
    named > 1 &&
    named + know.name.length === piece.value.length &&
    titleScore(piece.value.slice(0, named).trim()) > 0
  )
    return cut(named - 1, 1);
  const bracketed = IN_BRACKETS.exec(piece.value);
  if (
    bracketed?.[1] &&
    bracketed[2] &&
    nameScore(bracketed[1], know) > 0 &&
    (titleScore(bracketed[2]) > 0 || companyScore(bracketed[2], know) > 0)
  ) {
    const from = piece.value.lastIndexOf('(') + 1;
    return [
      { ...piece, value: bracketed[1], end: piece.start + bracketed[1].length },
      { ...piece, value: bracketed[2], start: piece.start + from, end: piece.end - 1 },
    ];
  }
  const joined = JOINER.exec(piece.value);
  if (joined?.[1] && joined[2] && (titleScore(joined[1]) > 0 || nameScore(joined[1], know) >= 0.9))
    return cut(joined[1].length, piece.value.length - joined[1].length - joined[2].length);
  const comma = /,\s+|\s+[–—-]\s+/.exec(piece.value);
  if (comma && comma.index > 1) {
    const left = piece.value.slice(0, comma.index);
    const right = piece.value.slice(comma.index + comma[0].length);
    const rightFirst = right.split(/,\s+/)[0] ?? right;
    const leftNamed = nameScore(left, know) >= 0.9;
    const rightFirm = companyScore(rightFirst, know);
    if (
      leftNamed ||
      (titleScore(left) > 0 && (rightFirm >= 0.94 || (rightFirm > 0.5 && titleScore(rightFirst) === 0))) ||
      (companyScore(left, know) > 0.5 && titleScore(left) === 0 && !LEGAL_FORM.test(`, ${right}`))
    )
      return cut(comma.index, comma[0].length);
    if (nameScore(left, know) > 0 && titleScore(rightFirst) > 0) return cut(comma.index, comma[0].length);
    const oneIsTheFirm =
      know.domain && namesDomain(right, know.domain) && !companyFitsDomain(left, know.domain);
    if (oneIsTheFirm && !LEGAL_FORM.test(`, ${right}`)) return cut(comma.index, comma[0].length);
  }
  const words = piece.value.split(' ');
  for (let count = 1; know.domain && count < Math.min(words.length, 5); count++) {
    const left = words.slice(0, count).join(' ');
    const isTitle = titleScore(left) > 0 && companyLikeness(left) === 0;
    if (isTitle && namesDomain(words.slice(count).join(' '), know.domain)) return cut(left.length, 1);
  }
  const of = OF_FIRM.exec(piece.value);
  if (
    of?.[1] &&
    of[2] &&
    titleScore(of[1]) > 0 &&
    know.domain &&
    namesDomain(of[2], know.domain) &&
    !companyFitsDomain(piece.value, know.domain)
  )
    return cut(of[1].length, piece.value.length - of[1].length - of[2].length);
  return [piece];
}
