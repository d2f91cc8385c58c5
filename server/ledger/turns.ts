import type { Turn } from '@emporikon/contract/ledger';
import { READING_VERSION, type EntryReading } from '@emporikon/core/ledger/entryReading';
import {
  joinTurns,
  readTurn,
  type Side,
  type TurnEntry,
  type TurnOutcome,
} from '@emporikon/core/ledger/turn';
import { QueryTypes } from 'sequelize';
import type { Context, Tools } from '../commands/context';
import type { Within } from '../commands/types';

type Asked = Pick<Context, 'sequelize' | 'tx'>;

/** So many of the newest entries say whose turn it is. */
const LOOKED_BACK = 30;
/** So much of an entry is read anew, where what was read of it is of an earlier reader. */
const READ_ANEW = 8000;

interface Row {
  owner: string;
  at: Date;
  side: Side;
  kind: string;
  outcome: TurnOutcome | null;
  reading: EntryReading | null;
  words: string;
  settled_by: string | null;
}

/** What an entry says to whose turn it is, as SQL over `n`; its words only where they have to be read anew. */
const SAID = `n.at, n.side, n.kind, n.outcome, CASE WHEN (n.reading ->> 'version')::int = ${READING_VERSION} THEN n.reading END AS reading,
  CASE WHEN n.kind = 'task' OR n.outcome IS NOT NULL OR (n.reading ->> 'version')::int IS DISTINCT FROM ${READING_VERSION}
       THEN left(coalesce(nullif(n.said, ''), n.headline || E'\\n' || n.body), ${READ_ANEW}) ELSE '' END AS words,
  CASE WHEN n.settles THEN coalesce((SELECT u.name FROM users u WHERE u.id = n.actor_id), 'a colleague') END AS settled_by`;
/** Kinds of entries that say nothing to it are not counted among the newest. */
const SPEAKS = `(n.settles OR n.kind = 'task' OR (n.side <> 'within' AND n.kind NOT IN ('note', 'change', 'file')))`;

const asEntry = ({ at, side, kind, outcome, reading, words, settled_by }: Row): TurnEntry => ({
  at: at.toISOString(),
  side,
  kind,
  outcome,
  text: words,
  reading,
  settledBy: settled_by,
});

const select = <R extends object>(
  { sequelize, tx }: Asked,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<R[]> => sequelize.query<R>(sql, { replacements, type: QueryTypes.SELECT, transaction: tx });

const byOwner = (rows: readonly Row[]): Map<string, TurnEntry[]> => {
  const all = new Map<string, TurnEntry[]>();
  for (const row of rows) all.set(row.owner, [...(all.get(row.owner) ?? []), asEntry(row)]);
  return all;
};

/** The newest entries of each of some people that they are part of, and were not only sent a copy of. */
const saidWithPeople = (asked: Asked, ids: readonly string[]): Promise<Row[]> =>
  select<Row>(
    asked,
    `SELECT p.id AS owner, said.* FROM unnest(ARRAY[:ids]::uuid[]) p (id) CROSS JOIN LATERAL (
       SELECT ${SAID} FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
        WHERE k.person_id = p.id AND ${SPEAKS} AND NOT (k.is_copied AND n.side = 'theirs')
        ORDER BY k.at DESC, k.entry_id DESC LIMIT ${LOOKED_BACK}) said`,
    { ids: [...ids] },
  );

/** The newest entries of each of some companies or deals that name nobody. */
const saidOfNobody = (
  asked: Asked,
  column: 'company_id' | 'deal_id',
  ids: readonly string[],
): Promise<Row[]> =>
  select<Row>(
    asked,
    `SELECT o.id AS owner, said.* FROM unnest(ARRAY[:ids]::uuid[]) o (id) CROSS JOIN LATERAL (
       SELECT ${SAID} FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
        WHERE k.${column} = o.id AND ${SPEAKS} AND NOT EXISTS (SELECT 1 FROM ledger_links w WHERE w.entry_id = n.id AND w.person_id IS NOT NULL)
        ORDER BY k.at DESC, k.entry_id DESC LIMIT ${LOOKED_BACK}) said`,
    { ids: [...ids] },
  );

const SPOKEN = new Set(['call', 'meeting', 'visit']);
/** Whether both sides had a word: they talked, or they wrote to us. */
const isSpoken = ({ kind, side, outcome, reading }: TurnEntry): boolean =>
  SPOKEN.has(kind)
    ? !outcome || outcome === 'spoke'
    : side === 'theirs' && (kind === 'mail' || kind === 'form') && !reading?.isRobot;
const isTouch = ({ side }: TurnEntry): boolean => side !== 'within';
const newest = (entries: readonly TurnEntry[], which: (entry: TurnEntry) => boolean): string | null =>
  entries.find(which)?.at ?? null;

interface Kept {
  person_id: string;
  turn: Turn['turn'] | null;
  since: Date | null;
  because: string | null;
  spoken_at: Date | null;
  touched_at: Date | null;
  is_live: boolean | null;
}

/** Whose turn it is with somebody, and when both sides had a word last and when anything was said at all. */
export type Contact = Turn & { spokenAt: string | null; touchedAt: string | null };

const contactOf = (entries: readonly TurnEntry[]): Contact => ({
  ...readTurn(entries),
  spokenAt: newest(entries, isSpoken),
  touchedAt: newest(entries, isTouch),
});

/** Whose turn it is with each of some people, as far as whoever asks sees what was said. */
export async function turnsOfPeople(asked: Asked, ids: readonly string[]): Promise<Map<string, Contact>> {
  if (!ids.length) return new Map();
  const kept = await select<Kept>(
    asked,
    `SELECT p.id AS person_id, t.turn, t.since, t.because, t.spoken_at, t.touched_at, t.is_live FROM unnest(ARRAY[:ids]::uuid[]) p (id) LEFT JOIN turns t ON t.person_id = p.id`,
    { ids: [...ids] },
  );
  const live = kept.filter((row) => row.is_live !== false).map((row) => row.person_id);
  const said = byOwner(live.length ? await saidWithPeople(asked, live) : []);
  return new Map(
    kept.map(({ person_id: id, turn, since, because, ...at }) => [
      id,
      at.is_live === false && turn
        ? {
            turn,
            since: since?.toISOString() ?? null,
            because: because ?? '',
            spokenAt: at.spoken_at?.toISOString() ?? null,
            touchedAt: at.touched_at?.toISOString() ?? null,
          }
        : contactOf(said.get(id) ?? []),
    ]),
  );
}

/** Whose turn it is with a company: with whoever works there, and where nobody is named. */
export async function turnOfCompany(asked: Asked, id: string): Promise<Turn> {
  // Of many people only those count where it is somebody's turn, or it has to be read who sees what.
  const people = await select<{ id: string }>(
    asked,
    `SELECT p.id FROM people p LEFT JOIN turns t ON t.person_id = p.id
      WHERE p.company_id = :id AND (t.person_id IS NULL OR t.is_live OR t.turn <> 'nobody' OR t.since IS NOT NULL)
      ORDER BY (t.turn = 'ours') DESC, t.since DESC NULLS LAST LIMIT 1000`,
    { id },
  );
  const turns = await turnsOfPeople(
    asked,
    people.map((person) => person.id),
  );
  const ofNobody = byOwner(await saidOfNobody(asked, 'company_id', [id])).get(id) ?? [];
  return joinTurns([...turns.values(), ...(ofNobody.length ? [readTurn(ofNobody)] : [])]);
}

/** Whose turn it is in each of some cases, by what was said about it, whoever said it. */
export async function turnsOfCases(asked: Asked, ids: readonly string[]): Promise<Map<string, Turn>> {
  if (!ids.length) return new Map();
  const said = byOwner(
    await select<Row>(
      asked,
      `SELECT o.id AS owner, said.* FROM unnest(ARRAY[:ids]::uuid[]) o (id) CROSS JOIN LATERAL (
         SELECT ${SAID} FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
          WHERE k.case_id = o.id AND ${SPEAKS} ORDER BY k.at DESC, k.entry_id DESC LIMIT ${LOOKED_BACK}) said`,
      { ids: [...ids] },
    ),
  );
  return new Map(ids.map((id) => [id, said.has(id) ? readTurn(said.get(id) ?? []) : joinTurns([])]));
}

/** Whose turn it is on each of some deals: with the people on it, and where nobody is named. */
export async function turnsOfDeals(asked: Asked, ids: readonly string[]): Promise<Map<string, Turn>> {
  if (!ids.length) return new Map();
  const roles = await select<{ deal_id: string; person_id: string }>(
    asked,
    'SELECT deal_id, person_id FROM deal_roles WHERE deal_id IN (:ids)',
    { ids: [...ids] },
  );
  const people = await turnsOfPeople(asked, [...new Set(roles.map((role) => role.person_id))]);
  const ofNobody = byOwner(await saidOfNobody(asked, 'deal_id', ids));
  return new Map(
    ids.map((id) => {
      const own = ofNobody.get(id);
      return [
        id,
        joinTurns([
          ...roles.filter((role) => role.deal_id === id).flatMap((role) => people.get(role.person_id) ?? []),
          ...(own ? [readTurn(own)] : []),
        ]),
      ];
    }),
  );
}

/** Keeps whose turn it is with each of some people. */
export async function keepTurns(asked: Asked, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  const said = byOwner(await saidWithPeople(asked, ids));
  const silent = ids.filter((id) => !said.has(id));
  if (silent.length)
    await asked.sequelize.query('DELETE FROM turns WHERE person_id IN (:silent) AND NOT is_live', {
      replacements: { silent },
      transaction: asked.tx,
    });
  const rows = [...said].map(([id, entries]) => {
    const { spokenAt: spoken, touchedAt: touched, ...turn } = contactOf(entries);
    return { id, ...turn, spoken, touched };
  });
  await asked.sequelize.query(
    `INSERT INTO turns (person_id, turn, since, because, spoken_at, touched_at, is_live)
     SELECT p.id, r.turn, r.since, r.because, r.spoken, r.touched, has_restricted_entries(p.id)
       FROM jsonb_to_recordset(:rows::jsonb) r (id uuid, turn text, since timestamptz, because text, spoken timestamptz, touched timestamptz)
       JOIN people p ON p.id = r.id
     ON CONFLICT (person_id) DO UPDATE SET turn = EXCLUDED.turn, since = EXCLUDED.since, because = EXCLUDED.because,
       spoken_at = EXCLUDED.spoken_at, touched_at = EXCLUDED.touched_at WHERE NOT turns.is_live`,
    { replacements: { rows: JSON.stringify(rows) }, transaction: asked.tx },
  );
}

const idIn = (row: Record<string, unknown> | null, key: string): string[] => {
  const id = row?.[key];
  return typeof id === 'string' ? [id] : [];
};

/** Whose turn it is follows what is said, corrected, taken back, and merged. */
export const followTurns: Within = async (tools: Tools, tx, { changes }) => {
  const asked = { sequelize: tools.sequelize, tx };
  const people = new Set(
    changes.flatMap(({ table, before, after }) =>
      table === 'ledger_links'
        ? [...idIn(before, 'personId'), ...idIn(after, 'personId')]
        : table === 'merges'
          ? [...idIn(after ?? before, 'survivorId'), ...idIn(after ?? before, 'mergedId')]
          : [],
    ),
  );
  const entries = changes.flatMap(({ table, id }) => (table === 'ledger_entries' ? id : []));
  if (entries.length)
    for (const { id } of await select<{ id: string }>(
      asked,
      'SELECT DISTINCT person_id AS id FROM ledger_links WHERE entry_id IN (:entries) AND person_id IS NOT NULL',
      { entries },
    ))
      people.add(id);
  await keepTurns(asked, [...people]);
};
