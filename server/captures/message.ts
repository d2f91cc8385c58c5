import type { Span } from '@emporikon/core/reading/types';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { Capture } from '../db/models/captures';
import { notFound } from '../http/problems';
import { loadClaims, loadIntents } from './view';

interface Marked {
  id: string;
  span: Span | null;
}

/** An HTML message with what was read underlined, safe to show in a sandboxed frame; null for a plain one. */
export async function messageHtml(
  tools: Tools,
  actor: Actor | null,
  captureId: string,
): Promise<string | null> {
  const found = await runInTransaction(tools, actor, async (context) => {
    const capture = await Capture.findByPk(captureId, { transaction: context.tx });
    if (!capture) throw notFound('There is no such capture.');
    if (capture.message.body !== 'html') return null;
    const claims: Marked[] = (await loadClaims(context, captureId)).filter(
      (claim) => claim.fate !== 'superseded',
    );
    const intents: Marked[] = await loadIntents(context, captureId);
    const marks = [...claims, ...intents].flatMap(({ id, span }) =>
      span?.part === 'text' ? [{ id, start: span.start, end: span.end }] : [],
    );
    return {
      kind: capture.kind === 'page' ? ('page' as const) : ('email' as const),
      raw: capture.raw,
      marks,
    };
  });
  return found ? tools.readers.run('showHtml', found) : null;
}
