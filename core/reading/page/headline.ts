import { addressLikeness } from '../../people/addresses';
import { alternatives } from '../../words/compile';
import { companyFitsDomain, companyLikeness, LEGAL_FORM } from '../../people/companies';
import { titleLikeness } from '../signature/words';

export interface Headline {
  jobTitle?: string;
  companyName?: string;
}

const MOST = 160;
/** A post that holds no word of one we know is no longer than this. */
const MOST_WORDS = 4;
const AT = String.raw`at|@|bei|beim|chez|bij|presso|hos|ved|på|u|w|в`;
const BY_WORD = new RegExp(String.raw`^(.{2,80}?)\s+(?:${AT})\s+(.{2,60})$`, 'iu');
/** "Inhaberin von Lindner Räder", "gérant de l'Atelier Roscoff", "owner of Calder Cabs". */
const OF =
  /^(.{2,60}?)\s+(?:of(?: the)?|von|vom|der|des|von der|de la|de l['’]|du|de|d['’]|da|do|del|della|dell['’]|di|van|av|för)\s?(?=['’]?\p{Lu})(.{2,60})$/u;
const SPACED_OF = /\s(?:na|no|en)\s+(?=\p{Lu})/u;
const PARTS = /\s*[|·•‖]\s*|\s+[–—-]+\s+|\s*\/\/\s*|\t+/;
/** "… at Zielony Kurier in Poznań": a line says where, a firm's name does not. */
const IN_TOWN = /\s+(?:in|à|en|em|w|i|a)\s+\p{Lu}[\p{L} ,.-]+$/u;
const ONCE = String.raw`(?:${alternatives('formerly')})`;
/** What was before: "…, previously Buyer at Nordkaffe". */
const FORMER_TAIL = new RegExp(String.raw`[\s,;(|·–—-]+(?<!\p{L})${ONCE}(?!\p{L})[\s:-].*$`, 'iu');
/** "Former CTO, Blue Kettle · now Founder at Stillwater". */
const NOW = /^(?:now|currently|today|jetzt|heute|aujourd['’]hui|actualmente|atualmente|ora|nu)\s+/i;
/** "The buyer for Northside Grocers"; "Head of Sales for Europe" names no firm. */
const FOR = /^(.{2,60}?)\s+(?:for|für|pour|para|per|voor)\s+(?=\p{Lu})(.{2,60})$/u;
/** "Angestellt, Teamleiterin Logistik, …": how somebody is employed is no post. */
const EMPLOYMENT = new RegExp(String.raw`^(?:${alternatives('employment')})\s*[,:·|–-]\s+`, 'iu');
const FORMER = new RegExp(String.raw`^\W*${ONCE}(?!\p{L})`, 'iu');

/** Posts that are had of a whole firm: "Inhaberin von Lindner Räder" names it, "Head of Parks" does not. */
const HEADS_FIRM = new RegExp(String.raw`(?<!\p{L})(?:${alternatives('headsFirm')})$`, 'iu');

/** Whether a line tells of a post somebody no longer has. */
export const isFormer = (line: string): boolean => FORMER.test(line);

const isTitle = (text: string): boolean => titleLikeness(text) > 0;
/** The firm at the end of a sentence, without the town and what else follows. */
const trimFirm = (text: string): string =>
  (LEGAL_FORM.test(text) ? text : text.replace(IN_TOWN, '')).replace(/[\s.,;:]+$/, '').trim();

const isFirmName = (text: string): boolean =>
  (/^[\p{Lu}\p{Lo}\d«“"]/u.test(text) || companyLikeness(text) > 0) &&
  text.split(/\s+/).length <= 8 &&
  !/\S@\S|\d{5}|https?:|[!?]$/.test(text);

/** How much a part of a headline is a firm's name rather than a post. */
const firmness = (text: string, host: string | null): number =>
  companyLikeness(text) + (host !== null && companyFitsDomain(text, host) ? 1 : 0);

function ofTwo(left: string, right: string, isByWord: boolean, host: string | null): Headline | null {
  const [a, b] = [left.trim(), trimFirm(right)];
  if (!b || /\S@\S|\d{5}/.test(b)) return null;
  if (isTitle(a) && (isByWord || firmness(a, host) < 1) && isFirmName(b))
    return isTitle(b) && !isByWord && firmness(b, host) === 0
      ? { jobTitle: `${a}, ${b}` }
      : { jobTitle: a, companyName: b };
  const turned = trimFirm(left);
  if (isTitle(right) && isFirmName(turned)) return { jobTitle: right.trim(), companyName: turned };
  const isShort = a.split(/\s+/).length <= MOST_WORDS && !/[.!?]\s*$/.test(right);
  return isByWord && isShort && /^[\p{Lu}\p{Lo}]/u.test(a) && isFirmName(b)
    ? { jobTitle: a, companyName: b }
    : null;
}

/** Several parts: the one that is a post, and beside it the one that is most like a firm. */
function ofParts(parts: readonly string[], host: string | null): Headline | null {
  const at = parts.findIndex((part) => isTitle(part) && firmness(part, host) < 1);
  if (at < 0) return null;
  const within = readHeadline(parts[at] ?? '', host);
  if (within?.companyName) return within;
  const others = parts
    .map((part, index) => ({ part: trimFirm(part), near: Math.abs(index - at), after: index > at, index }))
    .filter(
      ({ index, part }) =>
        index !== at && isFirmName(part) && !isFormer(part) && !(isTitle(part) && firmness(part, host) === 0),
    )
    .sort(
      (x, y) =>
        firmness(y.part, host) - firmness(x.part, host) ||
        x.near - y.near ||
        Number(y.after) - Number(x.after),
    );
  const [firm] = others;
  const jobTitle = within?.jobTitle ?? parts[at] ?? '';
  return firm ? { jobTitle, companyName: firm.part } : { jobTitle };
}

/**
 * "Buyer at Padaria Sol", "Head Baker, Brotwerk GmbH", "Brotwerk GmbH: Einkauf", "gérant de l'Atelier Roscoff": a post and a firm
 * on one line, or one of them; what was before is left out.
 * @param host the domain the page stands at, which may be called like the firm
 * @returns null where the line is neither
 */
export function readHeadline(line: string, host: string | null = null): Headline | null {
  if (line.length > MOST) return null;
  if (isFormer(line)) {
    const left = line.split(PARTS).filter((part) => !isFormer(part));
    return left.length && left.length < line.split(PARTS).length
      ? readHeadline(left.map((part) => part.replace(NOW, '')).join(' | '), host)
      : null;
  }
  const text = line
    .trim()
    .replace(EMPLOYMENT, '')
    .replace(FORMER_TAIL, '')
    .replace(/[.\s,;:]+$/, '');
  if (!text) return null;
  const parts = text.split(PARTS).filter(Boolean);
  if (parts.length > 1) return ofParts(parts, host);
  const byWord = BY_WORD.exec(text);
  if (byWord?.[1] && byWord[2]) {
    const both = ofTwo(byWord[1], byWord[2], true, host);
    if (both) return both;
  }
  const colon = /^(.{2,60}?):\s+(.{2,60})$/u.exec(text);
  if (colon?.[1] && colon[2]) return ofTwo(colon[1], colon[2], false, host);
  const whole = !/[.!?]\s/.test(text) && text.split(/\s+/).length <= 7;
  if (whole && firmness(text, host) >= 1 && !isTitle(text)) {
    const [first = ''] = text.split(/,\s/);
    return { companyName: firmness(first, host) >= 1 ? first : text };
  }
  const spaced = SPACED_OF.exec(text);
  if (spaced && addressLikeness(text.slice(spaced.index + spaced[0].length)) === 0) {
    const both = ofTwo(text.slice(0, spaced.index), text.slice(spaced.index + spaced[0].length), false, host);
    if (both) return both;
  }
  const forFirm = FOR.exec(text);
  if (forFirm?.[1] && forFirm[2] && isTitle(forFirm[1]) && companyLikeness(forFirm[2]) > 0)
    return { jobTitle: forFirm[1].trim(), companyName: trimFirm(forFirm[2]) };
  const of = OF.exec(text);
  if (of?.[1] && of[2] && isTitle(of[1])) {
    const right = trimFirm(of[2]);
    if (HEADS_FIRM.test(of[1]) || firmness(right, host) >= 1)
      return { jobTitle: of[1].trim(), companyName: right };
  }
  const commas = [...text.matchAll(/,\s+/g)];
  for (const comma of commas.reverse()) {
    const [left, right] = [text.slice(0, comma.index), text.slice(comma.index + comma[0].length)];
    if (LEGAL_FORM.test(`, ${right}`) && companyLikeness(left) < 1 && !isTitle(left)) continue;
    const both = ofTwo(left, right, false, host);
    if (both) return both;
  }
  if (whole && isTitle(text) && firmness(text, host) < 1 && text.split(/\s+/).length <= 7)
    return { jobTitle: text };
  if (whole && companyLikeness(text) > 0) return { companyName: text };
  return null;
}
