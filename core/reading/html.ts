import { parseHtml, type Place } from './parsing';

const SKIPPED = new Set([
  'script',
  'style',
  'head',
  'title',
  'template',
  'noscript',
  'object',
  'iframe',
  'svg',
  'math',
  'select',
  'textarea',
]);
const BLOCKS = new Set(
  'p div li ul ol tr table tbody thead h1 h2 h3 h4 h5 h6 blockquote pre section article header footer hr address dl dt dd center body html'.split(
    ' ',
  ),
);
const VOID = new Set('br hr img input meta link area base col embed source track wbr'.split(' '));

export interface HtmlText {
  text: string;
  /** Ranges of the text that stand inside block quotes. */
  quotes: { start: number; end: number }[];
}

export interface HtmlMark {
  start: number;
  end: number;
  /** Becomes the value of the mark's `data-read` attribute. */
  id: string;
}

export interface Walk {
  /** Text as it lands in the plain rendering. */
  onText?(out: string): void;
  /** The same for who marks it: `raw` is the piece of the document it came from, `map` leads from the one to the other. */
  onMapped?(out: string, raw: string, map: number[]): void;
  onBreak(text: string): void;
  onOpen?(name: string, attribs: Record<string, string>, at: Place): void;
  onClose?(name: string): void;
}

/**
 * One pass over a document. Streaming and without recursion, because mail nests tables thousands deep when it wants
 * to do harm. White space collapses as a browser collapses it, so that offsets fit what the reader sees.
 */
export function walkHtml(html: string, to: Walk): void {
  let skipped = 0;
  let pre = 0;
  let atStart = true;
  let pendingSpace = false;
  const breakLine = (text: string): void => {
    if (!atStart || text === '\n\n') to.onBreak(text === '\n\n' && atStart ? '' : text);
    pendingSpace = false;
    if (text.includes('\n')) atStart = true;
  };
  /** What the mapping below does, for a whole piece at once. */
  const collapse = (raw: string): string => {
    if (pre) {
      if (raw) atStart = raw.endsWith('\n');
      return raw.replace(/\u00a0/g, ' ');
    }
    const words = raw.split(/[^\S\u00a0]+/);
    const out: string[] = [];
    words.forEach((word, index) => {
      if (index > 0) pendingSpace = !atStart;
      if (!word) return;
      out.push(pendingSpace ? ' ' : '', word);
      pendingSpace = false;
      atStart = false;
    });
    return out.join('').replace(/\u00a0/g, ' ');
  };
  // A run of text arrives in pieces, split at entities; each piece is mapped for itself.
  parseHtml(html, (at) => ({
    onopentag(name, attribs) {
      if (SKIPPED.has(name) || skipped) skipped += VOID.has(name) ? 0 : 1;
      else {
        if (name === 'br') {
          to.onBreak('\n');
          atStart = true;
          pendingSpace = false;
        } else if (BLOCKS.has(name)) breakLine('\n');
        else if ((name === 'td' || name === 'th') && !atStart) {
          to.onBreak('\t');
          pendingSpace = false;
          atStart = true;
        }
        if (name === 'pre') pre++;
        to.onOpen?.(name, attribs, at());
      }
    },
    ontext(raw) {
      if (skipped) return;
      if (!to.onMapped) {
        to.onText?.(collapse(raw));
        return;
      }
      let out = '';
      const map: number[] = [];
      for (let index = 0; index < raw.length; index++) {
        const char = raw[index] ?? '';
        if (!pre && /\s/.test(char) && char !== '\u00a0') {
          pendingSpace = !atStart;
          continue;
        }
        if (pendingSpace) {
          out += ' ';
          map.push(Math.max(0, index - 1));
          pendingSpace = false;
        }
        out += char === '\u00a0' ? ' ' : char;
        map.push(index);
        atStart = char === '\n';
      }
      to.onMapped(out, raw, map);
    },
    onclosetag(name) {
      if (skipped) {
        skipped -= VOID.has(name) ? 0 : 1;
        return;
      }
      to.onClose?.(name);
      if (name === 'pre') pre = Math.max(0, pre - 1);
      if (name === 'p') breakLine('\n\n');
      else if (BLOCKS.has(name) && name !== 'hr') breakLine('\n');
    },
  }));
}

/**
 * The text a reader sees of an HTML message: blocks on lines of their own, cells parted by tabs, scripts and styles gone.
 * @param html the document
 * @returns its text, and which stretches of it are quoted
 */
export function textOfHtml(html: string): HtmlText {
  const pieces: string[] = [];
  let length = 0;
  let depth = 0;
  let from = 0;
  const quotes: HtmlText['quotes'] = [];
  const push = (piece: string): void => {
    pieces.push(piece);
    length += piece.length;
  };
  walkHtml(html, {
    onText: push,
    onBreak: push,
    onOpen(name) {
      if (name === 'blockquote' && depth++ === 0) from = length;
    },
    onClose(name) {
      if (name === 'blockquote' && depth > 0 && --depth === 0) quotes.push({ start: from, end: length });
    },
  });
  if (depth > 0) quotes.push({ start: from, end: length });
  return { text: pieces.join(''), quotes };
}

const MOST_PICTURES = 40;
const LONGEST_ALTERNATIVE = 400;

/** What the pictures of a message are said to show, in their order. */
export function picturesIn(html: string): string[] {
  const pictures: string[] = [];
  walkHtml(html, {
    onText: () => undefined,
    onBreak: () => undefined,
    onOpen(name, { alt = '' }) {
      if (name === 'img' && /\p{L}/u.test(alt) && pictures.length < MOST_PICTURES)
        pictures.push(alt.trim().slice(0, LONGEST_ALTERNATIVE));
    },
  });
  return pictures;
}

/** Text as it stands in HTML. */
export const escapeText = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');
const escapeAttribute = (text: string): string => escapeText(text).replace(/"/g, '&quot;');

/**
 * The same document with the marked stretches of its text wrapped in `<mark data-read="…">`. Offsets are those of
 * `textOfHtml`. The result is not yet safe to show: it is to be sanitised after.
 */
export function markHtml(html: string, marks: readonly HtmlMark[]): string {
  const sorted = [...marks].sort((a, b) => a.start - b.start || b.end - a.end);
  const out: string[] = [];
  let length = 0;
  let next = 0;
  walkHtml(html, {
    onBreak(text) {
      length += text.length;
    },
    onMapped(text, raw, map) {
      const end = length + text.length;
      while (next < sorted.length && (sorted[next]?.end ?? 0) <= length) next++;
      let done = 0;
      for (let at = next; at < sorted.length && (sorted[at]?.start ?? 0) < end; at++) {
        const mark = sorted[at];
        if (!mark) break;
        const from = map[Math.max(0, mark.start - length)] ?? 0;
        const until = mark.end - length < map.length ? (map[mark.end - length - 1] ?? 0) + 1 : raw.length;
        if (from < done || until <= from) continue;
        out.push(
          escapeText(raw.slice(done, from)),
          `<mark data-read="${escapeAttribute(mark.id)}">`,
          escapeText(raw.slice(from, until)),
          '</mark>',
        );
        done = until;
      }
      out.push(escapeText(raw.slice(done)));
      length = end;
    },
    onOpen(name, attribs) {
      if (name === 'mark') return;
      const written = Object.entries(attribs).map(([key, value]) => ` ${key}="${escapeAttribute(value)}"`);
      out.push(`<${name}${written.join('')}>`);
    },
    onClose(name) {
      if (name !== 'mark' && !VOID.has(name)) out.push(`</${name}>`);
    },
  });
  return out.join('');
}
