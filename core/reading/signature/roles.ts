import { addressLikeness } from '../../people/addresses';
import { companyFitsDomain, companyLikeness, isDomainLabel, LEGAL_FORM } from '../../people/companies';
import { localPart } from '../../people/emails';
import { isRoleName, looksLikeName, nameFitsLocalPart, nameOverlap } from '../../people/names';
import { fold } from '../../people/text';
import { DEVICE_LINE, SMALL_PRINT, titleLikeness, VALEDICTION } from './words';
import type { Piece } from './pieces';

export type Role = 'name' | 'title' | 'company' | 'address';

export interface Told {
  role: Role;
  value: string;
  start: number;
  end: number;
  line: number;
  confidence: number;
}

export interface Knowledge {
  /** The sender's name as the header gives it; empty when it is a function or missing. */
  name: string;
  address: string;
  /** Registrable domain of the sender unless it is a free-mail one. */
  domain: string | null;
}

type TextPiece = Extract<Piece, { kind: 'text' }>;

const ADDRESS_LABEL =
  /^(?:address|adresse|adress|morada|direcci[oó]n|adres|indirizzo|anschrift|a|visit us(?: at)?|find us(?: at)?)\s*[:.]\s*/iu;
const JOINER = /^(.{2,60}?)\s*(?:,?\s+(?:at|bei|chez|bij|@|presso)\s+|\s*@\s*)(.{2,60})$/iu;
const OF_FIRM = /^(.{2,40}?)\s+(?:of|von|de|da|do|van)\s+(.{2,60})$/iu;
const SLOGAN =
  /[!?]$|\b(?:since|seit|depuis|desde|sinds|we|wir|nous|our|unser|your|ihr|award|join|follow|visit|open(?:ing)?|monday|mon|tue|wed|thu|fri|sat|closed|every|fresh(?:ly)?|made|delivered|click|book|working (?:days|hours)|available|subscribe|holiday|days?|winner|proud|hours|arbeitszeit|newsletter|best)\b/iu;

/** Whether a piece can be the sender's name, given what the header says. */
function nameScore(value: string, know: Knowledge): number {
  if (!looksLikeName(value) || isRoleName(value) || companyLikeness(value) >= 1) return 0;
  if (know.domain && companyFitsDomain(value, know.domain) && nameOverlap(value, know.name) < 0.99) return 0;
  if (know.name && nameOverlap(value, know.name) >= 0.99) return 0.99;
  if (know.name && nameOverlap(value, know.name) >= 0.5)
    return titleLikeness(value) || companyLikeness(value) ? 0 : 0.95;
  if (nameFitsLocalPart(value, localPart(know.address)) && !titleLikeness(value)) return 0.93;
  return titleLikeness(value) || companyLikeness(value) || addressLikeness(value) >= 1 || know.name ? 0 : 0.6;
}

function companyScore(value: string, know: Knowledge): number {
  if (value.length < 2 || value.length > 70) return 0;
  const byDomain = know.domain !== null && companyFitsDomain(value, know.domain);
  if (byDomain) return value.split(' ').length <= 7 ? 0.97 : 0.4;
  const likeness = companyLikeness(value);
  if (likeness >= 1) return 0.94;
  return likeness > 0 && /^[\p{Lu}\d]/u.test(value) && value.split(' ').length <= 6 ? 0.82 : 0;
}

const titleScore = (value: string): number =>
  value.length > 80 || /[.!?]\s+\p{Lu}/u.test(value) ? 0 : titleLikeness(value) * 0.95;

/** "Buyer at Padaria Sol", "Ines Duarte, Buyer, Padaria Sol": cut where the parts mean more than the whole. */
function splitPiece(piece: TextPiece, know: Knowledge): TextPiece[] {
  const cut = (at: number, length: number): TextPiece[] => {
    const left = piece.value.slice(0, at).trimEnd();
    const from = at + length;
    return [
      { ...piece, value: left, end: piece.start + left.length },
      ...splitPiece({ ...piece, value: piece.value.slice(from), start: piece.start + from }, know),
    ];
  };
  if (addressLikeness(piece.value) >= 1) {
    const comma = piece.value.indexOf(', ');
    const head = piece.value.slice(0, comma);
    if (
      comma > 0 &&
      addressLikeness(head) === 0 &&
      !/^\d/.test(head) &&
      (nameScore(head, know) >= 0.9 || companyScore(head, know) >= 0.8)
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
      (titleScore(left) > 0 && rightFirm > 0.5 && titleScore(rightFirst) === 0) ||
      (companyScore(left, know) > 0.5 && titleScore(left) === 0 && !LEGAL_FORM.test(`, ${right}`))
    )
      return cut(comma.index, comma[0].length);
    if (nameScore(left, know) > 0 && titleScore(rightFirst) > 0) return cut(comma.index, comma[0].length);
  }
  const words = piece.value.split(' ');
  for (let count = 1; know.domain && count < Math.min(words.length, 5); count++) {
    const left = words.slice(0, count).join(' ');
    if (titleScore(left) > 0 && isDomainLabel(words.slice(count).join(' '), know.domain))
      return cut(left.length, 1);
  }
  const of = OF_FIRM.exec(piece.value);
  if (
    of?.[1] &&
    of[2] &&
    titleScore(of[1]) > 0 &&
    know.domain &&
    companyFitsDomain(of[2], know.domain) &&
    !companyFitsDomain(piece.value, know.domain)
  )
    return cut(of[1].length, piece.value.length - of[1].length - of[2].length);
  return [piece];
}

function scoreOf(value: string, know: Knowledge): Record<Role, number> {
  const address = addressLikeness(value);
  const scores = {
    name: nameScore(value, know),
    title: titleScore(value),
    company: companyScore(value, know),
    address: address >= 1 ? 0.92 : 0,
  };
  if (scores.name >= 0.9) scores.company = Math.min(scores.company, 0.5);
  if (scores.title > 0 && scores.company > 0) {
    if (scores.company >= 0.94) scores.title = 0;
    else scores.company = 0;
  }
  if (scores.address && scores.company >= 0.94 && !/\d/.test(value)) scores.address = 0;
  else if (scores.address) scores.company = scores.title = scores.name = 0;
  return scores;
}

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
      const label = ADDRESS_LABEL.exec(piece.value)?.[0].length ?? 0;
      return label ? { ...piece, value: piece.value.slice(label), start: piece.start + label } : piece;
    })
    .flatMap((piece) => splitPiece(piece, know));
  const told: Told[] = [];
  const open: TextPiece[] = [];
  let nameLine = -1;
  for (const piece of texts) {
    const scores = scoreOf(piece.value, know);
    const [role, confidence] = (Object.entries(scores) as [Role, number][]).reduce((best, one) =>
      one[1] > best[1] ? one : best,
    );
    const isNameSeen = told.some((one) => one.role === 'name');
    if (confidence === 0 || (role === 'name' && isNameSeen && confidence < 0.9)) open.push(piece);
    else if (role === 'name' && confidence < 0.9 && told.length > 0) open.push(piece);
    else {
      told.push({
        role,
        confidence,
        value: piece.value,
        start: piece.start,
        end: piece.end,
        line: piece.line,
      });
      if (role === 'name') nameLine = piece.line;
    }
  }
  return [...told, ...byPosition(open, told, nameLine)].sort((a, b) => a.start - b.start);
}

/** What no word gives away: the line under the name is a title or a firm, town and country follow the street. */
function byPosition(open: readonly TextPiece[], told: readonly Told[], nameLine: number): Told[] {
  const added: Told[] = [];
  const has = (role: Role): boolean =>
    told.some((one) => one.role === role) || added.some((one) => one.role === role);
  for (const piece of open) {
    const { value } = piece;
    const next = { value, start: piece.start, end: piece.end, line: piece.line };
    const streets = told.filter((one) => one.role === 'address');
    if (addressLikeness(value) >= 0.5 && streets.some((one) => Math.abs(one.line - piece.line) <= 2)) {
      added.push({ role: 'address', confidence: 0.85, ...next });
      continue;
    }
    if (
      addressLikeness(value) > 0 ||
      SLOGAN.test(value) ||
      /[.!?:]$/.test(value) ||
      value.split(' ').length > 6
    )
      continue;
    if (!/^[\p{Lu}\d]/u.test(value) || nameLine < 0 || piece.line < nameLine || piece.line > nameLine + 3)
      continue;
    if (fold(value).length < 3) continue;
    if (!has('company') && (has('title') || open.length === 1))
      added.push({ role: 'company', confidence: has('title') ? 0.8 : 0.55, ...next });
    else if (!has('title') && has('company') && piece.line <= nameLine + 1)
      added.push({ role: 'title', confidence: 0.6, ...next });
  }
  return added;
}
