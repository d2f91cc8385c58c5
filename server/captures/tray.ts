import { headingOf } from '@emporikon/core/reading/heading';
import { requireActor, type Context } from '../commands/context';
import type { Capture } from '../db/models/captures';
import { conflict } from '../http/problems';
import { loadCapture } from './view';

const fromOf = (capture: Capture): string => headingOf(capture.kind, capture.message).from;

const MOVES = {
  'set aside': {
    from: 'waiting',
    event: 'set aside capture',
    done: 'Set aside',
    refused: 'This is not in Arrivals any more.',
  },
  waiting: {
    from: 'set aside',
    event: 'brought back capture',
    done: 'Brought back',
    refused: 'This is not set aside any more.',
  },
} as const;

/**
 * Takes captures out of Arrivals without filing them, or brings them back; all of them or none, with one undo.
 * @returns the event
 * @throws ProblemError 404 when one is not there, 409 when one is not where it is taken from
 */
export async function moveInTray(
  context: Context,
  ids: readonly string[],
  to: keyof typeof MOVES,
): Promise<{ eventId: string | null }> {
  const { from, event, done, refused } = MOVES[to];
  const captures: Capture[] = [];
  // Locked in one order, so that two people who choose the same ones do not wait for each other.
  for (const id of [...new Set(ids)].sort()) {
    const capture = await loadCapture(context, id, true);
    if (capture.state !== from) throw conflict(refused);
    captures.push(capture);
  }
  for (const capture of captures) await context.write.update(capture, { state: to });
  const [first, ...others] = captures.map(fromOf);
  const words = others.length ? `${done} ${captures.length} arrivals` : `${done} ${first ?? ''}`;
  return { eventId: await context.write.event(event, words, requireActor(context).id) };
}
