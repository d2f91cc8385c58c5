import { alternatives } from '../../words/compile';
import { addressLikeness } from '../../people/addresses';
import { companyFitsDomain, companyLikeness, LEGAL_FORM } from '../../people/companies';
import { findEmails } from '../../people/emails';
import { fold } from '../../people/text';
import { nameOverlap, looksLikeName } from '../../people/names';
import type { Line } from '../email/layers';
import { isOthersLine, leadsBelow } from '../others';
import { cutLine } from './pieces';
import { ownOfTwo } from './split';
import { DEVICE_LINE, isSmallPrint, VALEDICTION } from './words';

export interface Parted {
  /** What the sender says. */
  body: Line[];
  /** What stands under it: name, role, firm, numbers. */
  signature: Line[];
}

const DELIMITER = /^\s*(?:-- ?|—|––|[-_=*~–—]{3,})\s*$/;
const GREETING = new RegExp(String.raw`^\s*(?:${alternatives('greeting')})\b`, 'iu');
const PHONE_SHAPE = /(?:\+|\(?\b0|\b\d)[\d\s().\-/–]{5,}\d/;
const WEB_SHAPE =
  /\b(?:https?:\/\/|www\.)\S+|\b[\w-]+\.(?:com|org|net|example|de|pt|fr|nl|uk|es|it|ie|io)\b/i;
const DEEPEST = 30;
/** What is added under a signature is said, and not signed. */
const POSTSCRIPT = new RegExp(String.raw`^\s*(?:${alternatives('postscript')})`, 'iu');
/** A list's own words under a message it hands on. */
const LIST_FOOT =
  /^\s*_{20,}\s*$|^You (?:have )?receiv(?:ed?|ing) this|^You are (?:receiving|subscribed|a member)|^To (?:leave|unsubscribe)\b|mailing list\s*$/i;
/** So many lines are somebody else's, below a line that leads to them. */
const THEIRS = 4;

/** The lines of a signature without those of a stand-in, an assistant or a list. */
function withoutOthers(lines: readonly Line[]): Line[] {
  const own: Line[] = [];
  let left = 0;
  let isNamed = false;
  for (const line of lines) {
    const text = line.text.trim();
    if (LIST_FOOT.test(text)) break;
    const tab = line.text.indexOf('\t');
    const column = tab < 0 ? '' : line.text.slice(tab).trim();
    if (column && isOthersLine(column)) {
      own.push({ ...line, text: line.text.slice(0, tab) });
      left = leadsBelow(column) ? THEIRS : 0;
      isNamed = left === 0 && !isContact(column);
      continue;
    }
    if (isOthersLine(text)) {
      left = leadsBelow(text) ? THEIRS : 0;
      // "Press: Max Orr", and their number and address on the lines below, where the sender's stand above.
      isNamed = left === 0 && !isContact(text) && own.some((other) => isContact(other.text));
      continue;
    }
    isNamed &&= text === '' || (isContact(text) && isContactAlone(text));
    if (isNamed) continue;
    if (left > 0 && text) left--;
    else own.push(line);
  }
  return own;
}

const isContact = (text: string): boolean =>
  PHONE_SHAPE.test(text) || findEmails(text).length > 0 || WEB_SHAPE.test(text);
const isProse = (text: string): boolean =>
  text.length > 72 && !/[|•·]/.test(text) && (text.match(/\p{Ll}+/gu)?.length ?? 0) > 9 && !isContact(text);

/** "T 01482 496 0300" below the small print is no part of it. */
const LABELLED_NUMBER = /^(?:t|tel|telephone|phone|m|mob|mobile|d|direct)\b[.:]?\s*[+(]?\d/i;

/** Marks the small print: from a paragraph that holds a phrase of it to that paragraph's end; all after it if long. */
function withoutSmallPrint(lines: readonly Line[]): Line[] {
  const kept: Line[] = [];
  let dropping = false;
  for (const line of lines) {
    const text = line.text.trim();
    if (!text) {
      dropping = false;
      kept.push(line);
    } else if (DEVICE_LINE.test(text) || (dropping && !LABELLED_NUMBER.test(text))) continue;
    else if (isSmallPrint(text)) dropping = text.length > 50 || /[a-z,]$/.test(text);
    else {
      dropping = false;
      kept.push(line);
    }
  }
  return kept;
}

/**
 * Parts a sender's own lines into what is said and the signature under it. The signature begins at the earliest of:
 * the delimiter of RFC 3676 §4.3 or a rule of dashes, a line taking leave, the sender's own name on a line of its own,
 * or, without any of these, a run of contact lines at the end.
 * @param lines the sender's lines, quoting removed
 * @param senderName the name in the From header, possibly empty
 * @param domain the sender's registrable domain unless it is a free-mail one
 * @param endsInContacts whether lines of numbers and addresses at the end are the sender's own, with nothing that leads to them
 */
export function partSignature(
  lines: readonly Line[],
  senderName: string,
  domain: string | null = null,
  endsInContacts = true,
): Parted {
  const filled = lines.map((line, index) => ({ index, text: line.text.trim() })).filter((one) => one.text);
  const tail = filled.slice(-DEEPEST);
  let begin = lines.length;
  let proseAfter = false;
  let smallPrintAbove = false;
  for (let at = tail.length - 1; at >= 0; at--) {
    const { index, text } = tail[at] ?? { index: 0, text: '' };
    const small = isSmallPrint(text);
    if (small) smallPrintAbove = true;
    const isFirst = filled[0]?.index === index;
    if (isFirst && GREETING.test(text)) break;
    if (DELIMITER.test(lines[index]?.text ?? '') && !(isFirst && filled.length > 1 && proseAfter)) {
      if (/^\s*-- ?$/.test(lines[index]?.text ?? '') || !proseAfter) begin = index + 1;
    } else if (takesLeave(text)) {
      if (!proseAfter || /^\s*(?:p\.?\s?s\b|nb\b)/im.test(textAfter(tail, at))) begin = index;
    } else if (!isFirst || tail.length <= 6) {
      const first = text.replace(/^[-–—~*_]+\s*/, '').split(/\s*[|•·,–]\s*|\s+-\s+|\s+\/{1,2}\s+/)[0] ?? '';
      const bare = ownOfTwo(first, senderName) ?? first;
      const named =
        senderName &&
        fold(bare).split(' ').length <= 5 &&
        nameOverlap(bare, senderName) >= 0.99 &&
        looksLikeName(bare);
      if (named && !proseAfter && !GREETING.test(text)) begin = index;
    }
    if (isProse(text) && !small && !smallPrintAbove) proseAfter = true;
    if (proseAfter && begin < lines.length && index < begin - 3) break;
  }
  if (begin === lines.length) begin = endsInContacts ? contactRun(lines, tail) : begin;
  else begin = blockAbove(lines, begin, domain);
  const under = lines.slice(begin);
  const after = under.findIndex((line) => POSTSCRIPT.test(line.text));
  const own = after < 0 ? under : under.slice(0, after);
  const said = after < 0 ? [] : under.slice(after);
  return { body: [...lines.slice(0, begin), ...said], signature: withoutOthers(withoutSmallPrint(own)) };
}

/** A line of numbers, addresses and links, with nothing but their labels beside them. */
function isContactAlone(text: string): boolean {
  const pieces = cutLine({ text, start: 0 }, 0);
  return pieces.length > 0 && pieces.every((piece) => piece.kind !== 'text');
}

const isAddressAlone = (text: string): boolean =>
  addressLikeness(text) >= 1 && !/[.!?]$/.test(text) && /^[\p{Lu}\d]/u.test(text);

/** Some write the firm, its address and numbers above their own name: the lines above that hold nothing else. */
function blockAbove(lines: readonly Line[], begin: number, domain: string | null): number {
  let first = begin;
  for (let at = begin - 1; at >= Math.max(0, begin - 8); at--) {
    const text = lines[at]?.text.trim() ?? '';
    if (!text) continue;
    const isSaid =
      GREETING.test(text) || isProse(text) || (/[.!?]$/.test(text) && text.split(' ').length > 5);
    if (isSaid || !(isFirmLine(text, domain) || isContactAlone(text) || isAddressAlone(text))) break;
    first = at;
  }
  return first;
}

/** A line that is a firm's name and nothing else: some write it above their own. */
const isFirmLine = (text: string, domain: string | null): boolean =>
  text.length > 1 &&
  text.split(' ').length <= 6 &&
  (LEGAL_FORM.test(text) || !/[.?!,:;]$/.test(text)) &&
  !GREETING.test(text) &&
  (companyLikeness(text) >= 1 || (domain !== null && companyFitsDomain(text, domain)));

/** A line that only takes leave, or takes leave and names the sender. */
function takesLeave(text: string): boolean {
  const match = VALEDICTION.exec(text);
  if (!match || text.length > 70 || text.includes('?')) return false;
  const rest = text.slice(match[0].length).trim();
  return rest === '' || VALEDICTION.test(rest) || (rest.split(' ').length <= 4 && looksLikeName(rest));
}

const textAfter = (tail: readonly { text: string }[], at: number): string =>
  tail
    .slice(at + 1)
    .map((one) => one.text)
    .join('\n');

/** Whether a text ends as sentences do; "Fenwick Paper Co." and "Nolan, B.A." end in an abbreviation. */
const endsSentence = (text: string): boolean =>
  /[.!?]$/.test(text) && !LEGAL_FORM.test(text) && !/(?:^|[\s.])\p{Lu}\p{L}{0,2}\.$/u.test(text);

/** Where a run of short lines with contact details begins, when nothing else parts the signature from the text. */
function contactRun(lines: readonly Line[], tail: readonly { index: number; text: string }[]): number {
  let begin = lines.length;
  let contacts = 0;
  let reach = (tail.at(-1)?.index ?? lines.length) + 1;
  for (let at = tail.length - 1; at >= 0; at--) {
    const { index, text } = tail[at] ?? { index: 0, text: '' };
    if (isSmallPrint(text) || DEVICE_LINE.test(text)) {
      if (contacts === 0) reach = index;
      continue;
    }
    if (
      isProse(text) ||
      GREETING.test(text) ||
      (endsSentence(text) && text.includes(' ') && !isContact(text))
    )
      break;
    if (reach - index > 4 && contacts === 0) break;
    if (isContact(text)) {
      contacts++;
      reach = index;
    }
    begin = index;
    if (contacts && !(lines[index - 1]?.text ?? '').trim() && !(lines[index - 2]?.text ?? '').trim()) break;
  }
  if (!contacts) {
    const last = tail.at(-1);
    const lone =
      last &&
      last.index > (tail[0]?.index ?? 0) &&
      looksLikeName(last.text) &&
      last.text.split(' ').length <= 4;
    return lone ? last.index : lines.length;
  }
  return begin;
}
