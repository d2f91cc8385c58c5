import { alternatives } from '../../words/compile';
import { tidy } from '../../people/text';
import { findEmails } from '../../people/emails';
import type { HtmlText } from '../html';
import type { Mailbox } from '../types';
import { parseMailbox } from './message';

export interface Line {
  text: string;
  /** Offset of `text` in the whole body. */
  start: number;
}

/** One author's words within a message. The first layer is the sender's own; others are quoted or handed on. */
export interface Layer {
  kind: 'own' | 'quoted' | 'forwarded';
  from: Mailbox | null;
  to: string;
  subject: string;
  date: string;
  lines: Line[];
}

const LABELS: Record<'from' | 'date' | 'to' | 'subject' | 'cc', string> = {
  from: 'from|von|de|van|da|fra|från|od|lähettäjä|mittente|remetente|expéditeur|afzender',
  date: 'date|sent|gesendet|datum|envoyé|envoyé le|enviado|enviado el|enviada em|fecha|data|verzonden|inviato|sendt|skickat|dato|date d’envoi',
  to: 'to|an|à|a|para|aan|til|till|destinataire|pour',
  subject: 'subject|betreff|objet|asunto|assunto|onderwerp|oggetto|emne|ämne|sujet',
  cc: 'cc|kopie|copie|reply-to|antwort an|importance|organization|organisation',
};
const HEADER = new RegExp(
  `^\\s*\\*?(?:${Object.entries(LABELS)
    .map(([key, words]) => `(?<${key}>${words})`)
    .join('|')})\\s*:\\*?\\s*(?<value>.*)$`,
  'iu',
);
const FORWARD_MARK = new RegExp(String.raw`^\s*(?:[-_=]{2,}\s*)?(?:${alternatives('forwarded')})\b.*$`, 'iu');
const ORIGINAL_MARK = new RegExp(
  String.raw`^\s*[-_]{2,}\s*(?:${alternatives('originalMessage')})\s*[-_]{2,}\s*$`,
  'iu',
);
const WROTE =
  /^(?:on|am|le|el|em|op|il|den|på|no dia|a)\s.{4,220}?(?:wrote|schrieb|a écrit|escribió|escreveu|schreef|ha scritto|skrev)\b.{0,120}?:?\s*$|^.{2,160}(?:wrote|schrieb|a écrit|escribió|escreveu|schreef|ha scritto|skrev)\s*:\s*$/iu;
/** Cheap to look for, and every attribution has one. */
const SAID = /wrote|schrieb|crit|escribi|escreveu|schreef|scritto|skrev/i;
/** How an attribution line begins; one that begins so is not continued from the line above. */
const OPENS = /^(?:on|am|le|el|em|op|il|den|på|no dia|a)\s/iu;
const FORWARD_SUBJECT = /^\s*(?:fwd?|wg|tr|enc|rv|doorst|i|vs|vb|vl|fs)\s*:/i;

/** Whether a subject line says that the message was handed on. */
export const isForwardSubject = (subject: string): boolean => FORWARD_SUBJECT.test(subject);

interface Row extends Line {
  depth: number;
}

const FIRST_LINES = 4000;
const LAST_LINES = 1000;
const LONGEST_LINE = 4000;

/**
 * Splits text into lines with the depth of their `>` quoting; linear, offsets kept. Of a text with more than 5,000 lines
 * the middle is left out, of a line the end beyond 4,000 characters: nobody introduces himself there.
 */
export function toRows(text: string, quotes: HtmlText['quotes']): Row[] {
  const rows: Row[] = [];
  let start = 0;
  let quote = 0;
  const lines = text.split('\n');
  for (const [index, line] of lines.entries()) {
    if (index >= FIRST_LINES && index < lines.length - LAST_LINES) {
      start += line.length + 1;
      continue;
    }
    const whole = line.slice(0, LONGEST_LINE);
    const prefix = /^(?:\s{0,3}>)+ ?/.exec(whole)?.[0] ?? '';
    while (quote < quotes.length && (quotes[quote]?.end ?? 0) <= start) quote++;
    const inside =
      quotes[quote] !== undefined &&
      start >= (quotes[quote]?.start ?? 0) &&
      start < (quotes[quote]?.end ?? 0);
    const depth = (prefix.match(/>/g)?.length ?? 0) + (inside ? 1 : 0);
    rows.push({ text: whole.slice(prefix.length), start: start + prefix.length, depth });
    start += line.length + 1;
  }
  return rows;
}

interface Block {
  next: number;
  from: Mailbox | null;
  to: string;
  subject: string;
  date: string;
}

/** A block of header lines inside a body ("From: … Sent: … To: …"), as mail programs write above what they quote. */
function headerBlock(rows: readonly Row[], at: number): Block | null {
  const first = HEADER.exec(rows[at]?.text ?? '')?.groups;
  if (!first?.from && !(first?.date || first?.subject)) return null;
  const seen: Partial<Record<'from' | 'date' | 'to' | 'subject' | 'cc', string>> = {};
  let last: keyof typeof seen | null = null;
  let next = at;
  for (; next < rows.length && next < at + 14; next++) {
    const row = rows[next];
    if (!row || row.depth !== rows[at]?.depth) break;
    const groups = HEADER.exec(row.text)?.groups;
    const key = (['from', 'date', 'to', 'subject', 'cc'] as const).find((name) => groups?.[name]);
    if (key && groups) {
      seen[key] ??= groups.value ?? '';
      last = key;
    } else if (!row.text.trim()) {
      if (Object.keys(seen).length >= 3 || (rows[next + 1] && !HEADER.test(rows[next + 1]?.text ?? '')))
        break;
    } else if (last === 'to' || last === 'cc' || (last === 'from' && !seen.from?.trim())) {
      seen[last] = `${seen[last] ?? ''} ${row.text.trim()}`;
    } else break;
  }
  if (seen.from === undefined || Object.keys(seen).length < 3) return null;
  return {
    next,
    from: parseMailbox(seen.from),
    to: seen.to ?? '',
    subject: seen.subject ?? '',
    date: seen.date ?? '',
  };
}

/** "On Mon, 23 Nov 2026 at 16:40, Ines Duarte <ines@…> wrote:", possibly wrapped over up to three lines. */
function attribution(rows: readonly Row[], at: number): { next: number; from: Mailbox | null } | null {
  const near = [at, at + 1, at + 2];
  if (!near.some((one) => SAID.test(rows[one]?.text ?? ''))) return null;
  const depth = rows[at]?.depth;
  let joined = '';
  for (let span = 0; span < 3 && rows[at + span]?.depth === depth; span++) {
    const text = rows[at + span]?.text.trim() ?? '';
    if (!text || text.length > 300) return null;
    if (joined && WROTE.test(text) && OPENS.test(text)) return null;
    joined = joined ? `${joined} ${text}` : text;
    if (joined.length > 8 && WROTE.test(joined) && (/:\s*$/.test(joined) || findEmails(joined).length > 0)) {
      const address = findEmails(joined).at(-1)?.value ?? '';
      const before = joined
        .replace(/<[^>]*>|\[mailto:[^\]]*\]|\([^)]*@[^)]*\)/g, '')
        .replace(/\s*(?:wrote|schrieb|a écrit|escribió|escreveu|schreef|ha scritto|skrev)\b.*$/iu, '');
      const name = tidy(
        (before.split(/[,;]|\d{1,2}[:.h]\d{2}(?::\d{2})?(?:\s*[AP]M)?|\d{4}/i).at(-1) ?? '').replace(
          /^[\s,.]*(?:Uhr|at|um|à|às|om|a las)?[\s,.]*/iu,
          '',
        ),
      );
      return { next: at + span + 1, from: address || name ? { name, address } : null };
    }
  }
  return null;
}

/**
 * Splits a body into the words of its several authors. Reads quoting by `>`, block quotes, attribution lines and
 * header blocks in the languages common in European and American mail. Linear in the number of lines.
 * @param text the body
 * @param quotes block-quoted ranges of an HTML body
 * @param subject the message's own subject
 */
export function splitLayers(text: string, quotes: HtmlText['quotes'], subject: string): Layer[] {
  const rows = toRows(text, quotes);
  const make = (kind: Layer['kind'], from: Mailbox | null = null, block?: Block): Layer => ({
    kind,
    from,
    to: block?.to ?? '',
    subject: block?.subject ?? '',
    date: block?.date ?? '',
    lines: [],
  });
  const layers: Layer[] = [make('own')];
  const current: (Layer | undefined)[] = [layers[0]];
  let pending: Layer | null = null;
  let marked = false;
  const open = (layer: Layer, depth: number): void => {
    layers.push(layer);
    current[depth] = layer;
    current.length = depth + 1;
    pending = null;
    marked = false;
  };
  for (let at = 0; at < rows.length;) {
    const row = rows[at];
    if (!row) break;
    if (FORWARD_MARK.test(row.text) && row.text.length < 120) {
      marked = true;
      at++;
      continue;
    }
    if (ORIGINAL_MARK.test(row.text)) {
      at++;
      continue;
    }
    const block = headerBlock(rows, at);
    if (block) {
      const above: Layer | undefined = current.findLast((layer) => layer !== undefined);
      const handedOn: boolean =
        marked ||
        isForwardSubject(above === layers[0] ? subject : (above?.subject ?? '')) ||
        (above === layers[0] && isForwardSubject(block.subject));
      open(make(handedOn ? 'forwarded' : 'quoted', block.from, block), row.depth);
      at = block.next;
      continue;
    }
    const said = attribution(rows, at);
    if (said) {
      const layer = make(marked ? 'forwarded' : 'quoted', said.from);
      at = said.next;
      while (at < rows.length && !rows[at]?.text.trim() && rows[at]?.depth === row.depth) at++;
      const below = rows[at]?.depth ?? row.depth;
      if (below > row.depth) pending = layer;
      else open(layer, row.depth);
      continue;
    }
    if (marked && !row.text.trim()) {
      at++;
      continue;
    }
    if (!current[row.depth] || (row.depth > 0 && pending)) {
      const parent: Layer | undefined = current.findLast(
        (layer, depth) => layer !== undefined && depth <= row.depth,
      );
      if (row.depth === 0) current[0] = parent ?? layers[0];
      else open(pending ?? make(marked ? 'forwarded' : 'quoted'), row.depth);
    } else if (row.text.trim()) current.length = row.depth + 1;
    current[row.depth]?.lines.push({ text: row.text, start: row.start });
    at++;
  }
  return layers;
}
