import { redactData } from '@emporikon/core/privacy/redact';
import type { Context } from '../commands/context';
import type { Change } from '../db/models/ledger';
import { ask } from './sql';

interface Logged {
  seq: string;
  label: string;
  changes: Change[];
}
/** So many records are looked for in the log at once. */
const LOT = 200;

const matching = (id: string): object[] => [
  [{ id }],
  ...['entryId', 'taskId'].flatMap((key) => [[{ before: { [key]: id } }], [{ after: { [key]: id } }]]),
];
/** Rows that point to the person without being known by an id of their own any more. */
const pointingTo = (person: string): object[] =>
  ['personId', 'fromId', 'toId', 'recordId'].flatMap((key) => [
    [{ before: { [key]: person } }],
    [{ after: { [key]: person } }],
  ]);

type Row = Change['before'];
const speaksOf = (row: Row, gone: ReadonlySet<string>): boolean =>
  row !== null && Object.values(row).some((value) => typeof value === 'string' && gone.has(value));

/**
 * Takes what was logged of a person's rows out of the log, and what names them out of everything else that was logged with
 * it. That something was done, when and by whom, stays.
 * @param gone ids of rows that are erased: what points to them goes out of the log with them
 * @param emptied ids of rows that stay with nothing in them: what was logged of them goes, and of nothing else
 * @param kept ids of rows that stay, without the person's name
 * @param redactOthers for rows that only were changed with theirs, in which a first name is somebody else's
 * @returns how many events it stood in
 */
export async function redactEvents(
  context: Context,
  {
    person,
    gone,
    emptied,
    kept,
  }: Record<'gone' | 'emptied' | 'kept', readonly string[]> & { person: string | null },
  { redact, redactOthers }: { redact: (text: string) => string; redactOthers: (text: string) => string },
): Promise<number> {
  const [isGone, isEmptied, isKept] = [
    new Set(person ? [person, ...gone] : gone),
    new Set(emptied),
    new Set(kept),
  ];
  const probes = [
    ...(person ? pointingTo(person) : []),
    ...[...isGone, ...emptied, ...kept].flatMap(matching),
  ];
  const done = new Set<string>();
  for (let at = 0; at < probes.length; at += LOT) {
    const events = await ask<Logged>(
      context,
      `SELECT seq::text AS seq, label, changes FROM events WHERE changes @> ANY (ARRAY(SELECT jsonb_array_elements($probes::jsonb)))`,
      { probes: JSON.stringify(probes.slice(at, at + LOT)) },
    );
    for (const { seq, label, changes } of events) {
      if (done.has(seq)) continue;
      done.add(seq);
      const left = changes
        .filter(
          ({ id, before, after }) =>
            !isEmptied.has(id) && !isGone.has(id) && !speaksOf(before, isGone) && !speaksOf(after, isGone),
        )
        .map(({ table, id, before, after }) => {
          const isAbout = isKept.has(id) || speaksOf(before, isKept) || speaksOf(after, isKept);
          const clean = isAbout ? redact : redactOthers;
          return { table, id, before: redactData(before, clean), after: redactData(after, clean) };
        });
      // What a command was about stands in its label in words of its own.
      const told = left.length < changes.length ? 'Erased' : redact(label);
      await ask(
        context,
        'UPDATE events SET changes = $changes::jsonb, label = $label, erased_at = $now::timestamptz WHERE seq = $seq::bigint',
        { changes: JSON.stringify(left), label: told, now: context.now(), seq },
      );
    }
  }
  return done.size;
}
