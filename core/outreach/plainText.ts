import { convert } from 'html-to-text';

/** Lines of at most so many characters (RFC 5322, 2.1.1 asks for 78 with the line end). */
const WIDTH = 76;

/** A letter as plain text, for programs that show no other: links written out, quotes behind `> `, lists with their marks. */
export const letterText = (html: string): string =>
  convert(html, {
    wordwrap: WIDTH,
    limits: { maxInputLength: 400_000, maxDepth: 60 },
    selectors: [
      { selector: 'a', options: { hideLinkHrefIfSameAsText: true, linkBrackets: ['<', '>'] } },
      { selector: 'img', format: 'skip' },
      ...['h1', 'h2', 'h3'].map((selector) => ({ selector, options: { uppercase: false } })),
      { selector: 'ul', options: { itemPrefix: '- ' } },
    ],
  }).trim();
