import type { PlainValue } from '@emporikon/core/query/types';
import type { Context } from '../commands/context';
import { turnsOfPeople } from '../ledger/turns';
import type { Said } from './answer';

const OF_TURNS = ['turn', 'turnSince', 'lastSpokenTo', 'lastTouched', 'daysQuiet'];
const DAY_MS = 86_400_000;

/** People of whom not everybody sees all that was said: for them it is read anew, as far as whoever asks sees it. */
export async function readTurnsAnew(
  context: Context,
  columns: readonly string[],
  found: ReadonlyMap<string, Said>,
): Promise<void> {
  if (!columns.some((key) => OF_TURNS.includes(key))) return;
  const turns = await turnsOfPeople(context, [...found.keys()]);
  for (const [id, { values }] of found) {
    const turn = turns.get(id);
    if (!turn) continue;
    const read: Record<string, PlainValue> = {
      turn: turn.turn,
      turnSince: turn.since,
      lastSpokenTo: turn.spokenAt,
      lastTouched: turn.touchedAt,
      daysQuiet: turn.spokenAt && Math.floor((context.now().getTime() - Date.parse(turn.spokenAt)) / DAY_MS),
    };
    for (const key of columns) if (key in read) values[key] = read[key] ?? null;
  }
}
