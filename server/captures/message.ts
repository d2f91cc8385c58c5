import type { Span } from '@emporikon/core/reading/types';
import { htmlOf } from '@emporikon/core/reading/email/read';
import { markHtml } from '@emporikon/core/reading/html';
import { decodeHtml } from '@emporikon/core/reading/read';
import sanitize from 'sanitize-html';
import type { Context } from '../commands/context';
import { Capture } from '../db/models/captures';
import { notFound } from '../http/problems';
import { loadClaims, loadIntents } from './view';

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

interface Marked {
  id: string;
  span: Span | null;
}

/** An HTML message with what was read underlined, safe to show in a sandboxed frame; null for a plain one. */
export async function messageHtml(context: Context, captureId: string): Promise<string | null> {
  const capture = await Capture.findByPk(captureId, { transaction: context.tx });
  if (!capture) throw notFound('There is no such capture.');
  if (capture.message.body !== 'html') return null;
  const html = capture.kind === 'page' ? decodeHtml(capture.raw) : await htmlOf(capture.raw);
  if (!html) return null;
  const claims: Marked[] = (await loadClaims(context, captureId)).filter(
    (claim) => claim.fate !== 'superseded',
  );
  const intents: Marked[] = await loadIntents(context, captureId);
  const marks = [...claims, ...intents].flatMap(({ id, span }) =>
    span?.part === 'text' ? [{ id, start: span.start, end: span.end }] : [],
  );
  return sanitizeMessage(markHtml(html, marks));
}
