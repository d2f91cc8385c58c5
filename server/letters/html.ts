import { escapeText } from '@emporikon/core/reading/html';
import sanitize from 'sanitize-html';

const TAGS = 'p br strong em u s a h2 h3 ul ol li blockquote code pre hr'.split(' ');

/** What of HTML a letter holds: words, links, lists and quotes; no styles, pictures or anything that acts. */
export const letterHtml = (html: string): string =>
  sanitize(html, {
    allowedTags: TAGS,
    allowedAttributes: { a: ['href'], ol: ['start'] },
    allowedSchemes: ['http', 'https', 'mailto', 'tel'],
    allowProtocolRelative: false,
    transformTags: {
      b: 'strong',
      i: 'em',
      del: 's',
      strike: 's',
      h1: 'h2',
      h4: 'h3',
      h5: 'h3',
      h6: 'h3',
      div: 'p',
    },
    nestingLimit: 40,
    disallowedTagsMode: 'discard',
  });

/** Plain words as paragraphs. */
export const paragraphs = (text: string): string =>
  text
    .trim()
    .split(/\n\s*\n/)
    .filter(Boolean)
    .map((block) => `<p>${escapeText(block).replace(/\r?\n/g, '<br>')}</p>`)
    .join('');

/** A letter with other addresses in its own links to the web; those of what it quotes stay. */
export function withLinks(html: string, other: (url: string) => string): string {
  const [own, quoted] = splitQuote(html);
  const changed = sanitize(own, {
    allowedTags: TAGS,
    allowedAttributes: { a: ['href'], ol: ['start'] },
    allowedSchemes: ['http', 'https', 'mailto', 'tel'],
    transformTags: {
      a: (tagName, attribs) => ({
        tagName,
        attribs: {
          ...attribs,
          ...(/^https?:/i.test(attribs.href ?? '') ? { href: other(attribs.href ?? '') } : {}),
        },
      }),
    },
  });
  return `${changed}${quoted}`;
}

/** A letter as mail programs show it, with what stands below it. Styles are inline, for programs that know no others. */
export const wholeHtml = (
  html: string,
  signature: { html: string; pictureId: string | null },
  mark = '',
): string => {
  const picture = signature.pictureId
    ? `<p><img src="cid:${signature.pictureId}" alt="" style="max-width:280px;height:auto;border:0"></p>`
    : '';
  const below =
    signature.html || picture
      ? `<div style="margin-top:18px;color:#555">${signature.html}${picture}</div>`
      : '';
  const [body = '', quoted = ''] = splitQuote(html);
  return `<!doctype html><html><head><meta charset="utf-8"></head><body style="font-family:sans-serif;font-size:15px;line-height:1.5;color:#222">${body}${below}${quoted}${mark}</body></html>`;
};

/** Where the message that is answered begins: the line that says whose words follow, then the quote. */
const QUOTE = /<p>[^<]{0,400}:<\/p>\s*<blockquote>/;

/** A letter's own words, and what it quotes behind them. */
export function splitQuote(html: string): [own: string, quoted: string] {
  const at = html.search(QUOTE);
  return at < 0 ? [html, ''] : [html.slice(0, at), html.slice(at)];
}
