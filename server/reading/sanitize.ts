import sanitize from 'sanitize-html';

const TEXT_TAGS =
  'p br div span b strong i em u s small sub sup h1 h2 h3 h4 h5 h6 ul ol li dl dt dd blockquote pre code table thead tbody tfoot tr td th caption hr a mark center font'.split(
    ' ',
  );

/** What is left of an HTML message: words, tables, lists and links that lead nowhere by themselves. No style, no script, nothing remote. */
export const sanitizeMessage = (html: string): string =>
  sanitize(html, {
    allowedTags: TEXT_TAGS,
    allowedAttributes: {
      mark: ['data-read', 'tabindex', 'class'],
      td: ['colspan', 'rowspan'],
      th: ['colspan', 'rowspan'],
      a: ['title'],
    },
    transformTags: {
      a: (_name, { href = '' }) => ({
        tagName: 'a',
        attribs: { title: /^(?:https?|mailto|tel):/i.test(href) ? href.slice(0, 300) : '' },
      }),
      mark: (_name, attribs) => ({ tagName: 'mark', attribs: { ...attribs, tabindex: '0' } }),
    },
    nestingLimit: 40,
    disallowedTagsMode: 'discard',
  });
