import { usableValue } from '../usable';
import type { PhoneType } from '../../people/phones';
import { wordsOf } from '../../words/compile';
import { fold } from '../../people/text';
import { titleLikeness } from '../signature/words';
import { fieldOfLabel, type Labelled } from '../table/labels';
import { isPersonName } from './names';
import type { PageLine } from './layout';

/** A value beside its label: "Telephone | 0161 496 0320". */
export interface Pair {
  field: Labelled['field'];
  type: PhoneType | undefined;
  value: string;
  /** What the label says, as it is written. */
  label: string;
  /** Where the value stands in the text of the page. */
  start: number;
  /** The number of its line among those that were given. */
  line: number;
}

const LONGEST_VALUE = 160;
/** More labels and values than these are a table of something else. */
const MOST_PIECES = 2000;
/** What pages and robots call whoever wrote or asked, beside what columns of tables are called. */
const PERSON = new Set(wordsOf('label.person').map(fold));
const POST = new Set(wordsOf('label.post').map(fold));

/** Whether a label only says who wrote or asked, and is no post of theirs. */
export const isPersonLabel = (label: string): boolean => PERSON.has(fold(label));

/** How forms put a label as a question: "What is your name?". */
const ASKED =
  /^(?:what is|what s|whats|which|please (?:enter|give|tell us)|enter|tell us|wie (?:ist|lautet|heisst)|quel(?:le)? est|cual es|qual e|wat is)\b|\b(?:your|you|ihre?[mnrs]?|dein[e]?|votre|vos|su|tu|seu|sua|tuo|tua|uw|je|din|ditt|deres)\b/g;

const fieldOf = (label: string): Labelled | null => {
  const asked = fold(label);
  const folded = asked.replace(ASKED, ' ').replace(/\s+/g, ' ').trim() || asked;
  if (POST.has(folded)) return { field: 'jobTitle' };
  return fieldOfLabel(label) ?? fieldOfLabel(folded) ?? (PERSON.has(folded) ? { field: 'fullName' } : null);
};

const COLON = /^\s*(\p{L}[^:：=?\t]{0,40}?)\s*[:：=?]\s*(\S.*)$/u;
const PARTS = /\s+[|·•]\s+/g;

/** "Geschäftsführerin: Ruth Kallweit": a post that leads to who has it. */
const postOf = (label: string, value: string): Labelled | null =>
  titleLikeness(label) > 0 && isPersonName(value) ? { field: 'fullName' } : null;

/** A label and its value in one stretch of text, or null. */
function inOne(text: string, start: number, line: number): Pair | null {
  const found = COLON.exec(text);
  const value = found?.[2]?.trim() ?? '';
  const labelled = found?.[1] ? (fieldOf(found[1]) ?? postOf(found[1], value)) : null;
  if (!labelled || !value || value.length > LONGEST_VALUE) return null;
  return {
    ...labelled,
    type: labelled.type,
    label: found?.[1] ?? '',
    value,
    start: start + text.lastIndexOf(value),
    line,
  };
}

/** The label a text is and nothing more, with or without its colon. */
const labelAlone = (text: string): Labelled | null =>
  text.length <= 42 ? fieldOf(text.replace(/[:：?？]\s*$/, '')) : null;

/** Whether a text can only be a label: "Buyer" may be the value of another, "Buyer:" may not. */
const isLabel = (text: string): boolean =>
  labelAlone(text) !== null && (/[:：]\s*$/.test(text) || fieldOfLabel(text) !== null);

/** The stretches of a line that can be a label, a value or both: cells of a row, or parts between bars. */
function piecesOf({ text, start }: PageLine): { text: string; start: number }[] {
  const pieces: { text: string; start: number }[] = [];
  let at = 0;
  for (const piece of text.split(text.includes('\t') ? '\t' : PARTS)) {
    const from = text.indexOf(piece, at);
    at = from + piece.length;
    const lead = piece.length - piece.trimStart().length;
    if (piece.trim()) pieces.push({ text: piece.trim(), start: start + from + lead });
  }
  return pieces;
}

/**
 * The values that stand beside, below or behind their labels: rows of tables, definition lists, "Tel.: …", and labels on lines
 * of their own.
 */
export function readPairs(lines: readonly PageLine[]): Pair[] {
  const pieces = lines
    .flatMap((line, index) => piecesOf(line).map((piece) => ({ ...piece, line: index })))
    .slice(0, MOST_PIECES);
  const pairs: Pair[] = [];
  for (let at = 0; at < pieces.length; at++) {
    const piece = pieces[at];
    if (!piece) continue;
    const whole = inOne(piece.text, piece.start, piece.line);
    if (whole) {
      pairs.push(whole);
      continue;
    }
    const next = pieces[at + 1];
    const isCell = next !== undefined && next.line === piece.line;
    const label = labelAlone(piece.text) ?? (isCell ? postOf(piece.text, next.text) : null);
    // "Details" above a row that begins with a label of its own is a heading.
    const isHeading =
      next !== undefined && !isCell && pieces[at + 2]?.line === next.line && labelAlone(next.text) !== null;
    if (
      !label ||
      label.field === 'note' ||
      isHeading ||
      !next ||
      next.line - piece.line > 1 ||
      next.text.length > LONGEST_VALUE
    )
      continue;
    // A label is followed by its value, and not by the next label.
    if (isLabel(next.text) || inOne(next.text, next.start, next.line)) continue;
    if (usableValue(label.field, next.text) === null) continue;
    pairs.push({
      ...label,
      type: label.type,
      label: piece.text,
      value: next.text,
      start: next.start,
      line: next.line,
    });
    at++;
  }
  return pairs;
}
