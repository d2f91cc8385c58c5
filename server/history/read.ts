import type { FieldChange } from '@emporikon/contract/history';
import { fieldChanges, type FieldChange as Told } from '@emporikon/core/ledger/fieldChanges';
import { termName } from '@emporikon/core/lifecycle/terms';
import type { OwnKind } from '@emporikon/core/fields/own';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { loadTerms, withTermKeys } from '../commands/terms';
import { hiddenKeys } from '../fields/rights';
import { notFound } from '../http/problems';
import { decodeCursor, encodeCursor } from '../http/paging';
import { CustomField } from '../db/models/fields';
import type { Change } from '../db/models/ledger';
import { NOT_RESTORED, TOLD, TOLD_FIELDS, type ToldField } from './fields';

type Table = FieldChange['record']['table'];
export interface AskedChanges {
  recordId?: string | undefined;
  by?: string | undefined;
  table?: Table | undefined;
  from?: string | undefined;
  until?: string | undefined;
  q?: string | undefined;
  cursor?: string | undefined;
  limit: number;
}
interface Row {
  seq: string;
  id: string;
  at: Date;
  label: string;
  actor_id: string | null;
  actor: string | null;
  undone: boolean;
  changes: Change[];
}

/** So many changes are looked through for one page. */
const MOST_LOOKED_THROUGH = 500;
/** A change of very many rows, such as an import, is told by so many of them. */
const MOST_OF_A_CHANGE = 100;

/** The record and those that became a part of it. */
const IDS =
  '(SELECT :recordId::text AS id UNION ALL SELECT id::text FROM forwardings WHERE to_id = :recordId::uuid)';
/** A change touches a record by its own row, or by a contact detail of it. */
const OF_RECORD = `e.changes @> ANY (ARRAY(SELECT p.probe FROM ${IDS} one, LATERAL (VALUES
  (jsonb_build_array(jsonb_build_object('id', one.id))),
  (jsonb_build_array(jsonb_build_object('table', 'contact_points', 'after', jsonb_build_object('personId', one.id)))),
  (jsonb_build_array(jsonb_build_object('table', 'contact_points', 'before', jsonb_build_object('personId', one.id))))) p (probe)))`;
const ROW_OF_RECORD = `AND (c ->> 'id' IN (SELECT id FROM ${IDS} ids) OR c ->> 'table' = 'contact_points'
  AND coalesce(c -> 'after' ->> 'personId', c -> 'before' ->> 'personId') IN (SELECT id FROM ${IDS} ids))`;

async function loadEvents(context: Context, asked: AskedChanges): Promise<Row[]> {
  const actor = requireActor(context);
  const [before = ''] = decodeCursor(asked.cursor, 1);
  const { recordId, table } = asked;
  // Over everything look those who answer for it; anybody sees what they did themselves.
  const by = recordId || actor.role !== 'rep' ? asked.by : actor.id;
  const where = [
    recordId ? OF_RECORD : 'true',
    ...(before ? ['e.seq < :before'] : []),
    ...(by ? ['e.actor_id = :by'] : []),
    ...(asked.from ? ['e.at >= :from'] : []),
    ...(asked.until ? ['e.at < :until'] : []),
  ];
  return context.sequelize.query<Row>(
    `SELECT e.seq, e.id, e.at, e.label, u.id AS actor_id, u.name AS actor, EXISTS (SELECT 1 FROM events x WHERE x.undoes = e.id) AS undone,
            coalesce((SELECT jsonb_agg(c) FROM (SELECT c FROM jsonb_array_elements(e.changes) c
                       WHERE c ->> 'table' IN (:tables) ${recordId ? ROW_OF_RECORD : ''} LIMIT ${MOST_OF_A_CHANGE}) told), '[]') AS changes
       FROM events e LEFT JOIN users u ON u.id = e.actor_id WHERE ${where.join(' AND ')} ORDER BY e.seq DESC LIMIT ${MOST_LOOKED_THROUGH}`,
    {
      replacements: {
        recordId: recordId ?? null,
        tables: table ? [table] : Object.keys(TOLD),
        ...{ before, by: by ?? null, from: asked.from ?? null, until: asked.until ?? null },
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
}

const NAMED: Record<string, string> = {
  user: 'SELECT id, name FROM users WHERE id = ANY ($ids::uuid[])',
  stage: 'SELECT id, name FROM stages WHERE id = ANY ($ids::uuid[])',
  company: 'SELECT id, name FROM companies WHERE id = ANY ($ids::uuid[])',
  'project stage': 'SELECT id, name FROM project_stages WHERE id = ANY ($ids::uuid[])',
  person: 'SELECT id, full_name AS name FROM people WHERE id = ANY ($ids::uuid[])',
  file: 'SELECT id, name FROM files WHERE id = ANY ($ids::uuid[])',
};
const RECORDS = `SELECT id, full_name AS name FROM people WHERE id = ANY ($ids::uuid[]) UNION ALL SELECT id, name FROM companies WHERE id = ANY ($ids::uuid[])
  UNION ALL SELECT id, title FROM leads WHERE id = ANY ($ids::uuid[]) UNION ALL SELECT id, title FROM deals WHERE id = ANY ($ids::uuid[])
  UNION ALL SELECT id, title FROM tasks WHERE id = ANY ($ids::uuid[]) UNION ALL SELECT id, title FROM projects WHERE id = ANY ($ids::uuid[])
  UNION ALL SELECT id, title FROM cases WHERE id = ANY ($ids::uuid[])`;

async function names(context: Context, sql: string, ids: readonly string[]): Promise<Map<string, string>> {
  if (!ids.length) return new Map();
  const rows = await context.sequelize.query<{ id: string; name: string }>(sql, {
    bind: { ids: [...new Set(ids)] },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return new Map(rows.map(({ id, name }) => [id, name]));
}

type Line = Told & { event: Row; index: number };
type OwnFields = ReadonlyMap<string, ToldField>;
const fieldOf = ({ table, field, key }: Told, own: OwnFields): ToldField =>
  (key && field === 'custom' ? own.get(key) : undefined) ??
  TOLD[table as Table][field] ?? { caption: key ?? field, type: 'text' as const };

const OWN_TYPES: Partial<Record<OwnKind, ToldField['type']>> = {
  money: 'money',
  date: 'day',
  person: 'person',
  company: 'company',
  file: 'file',
};
/** Fields of the organisation's own by their keys, as they are called now. */
async function loadOwn(context: Context): Promise<OwnFields> {
  const rows = await CustomField.findAll({ transaction: context.tx });
  return new Map(
    rows.map(({ key, label, kind, options }) => [
      key,
      {
        caption: label,
        type: OWN_TYPES[kind] ?? 'text',
        ...(kind === 'money' && options[0] ? { currency: options[0] } : {}),
      },
    ]),
  );
}
/** The record a line stands on: a contact detail belongs to its person. */
const recordIdOf = ({ table, id, row }: Told): string =>
  table === 'contact_points' && typeof row.personId === 'string' ? row.personId : id;

function wordsOf(value: unknown, nameOf: (id: string) => string | undefined): string | null {
  if (value === null || value === undefined || value === '') return null;
  if (Array.isArray(value)) return value.length ? value.map(String).join(', ') : null;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'string') return nameOf(value) ?? value;
  return typeof value === 'number' ? String(value) : JSON.stringify(value);
}

/** The names of all that some lines point to, as far as the actor may see them. */
async function pointedTo(
  context: Context,
  lines: readonly Line[],
  own: OwnFields,
): Promise<(line: Line, id: string) => string | undefined> {
  const known = new Map<string, Map<string, string>>();
  for (const [type, sql] of Object.entries(NAMED)) {
    const ids = lines
      .filter((line) => fieldOf(line, own).type === type)
      .flatMap(({ from, to }) => [from, to].filter((id) => typeof id === 'string'));
    known.set(type, await names(context, sql, ids));
  }
  const terms = await loadTerms(context);
  return (line, id) => {
    if (fieldOf(line, own).type === 'term') return termName(terms, id);
    const found = known.get(fieldOf(line, own).type);
    // What is hidden or gone is said to be so, and not by its number.
    return found && (found.get(id) ?? 'somebody or something that is gone');
  };
}

function matches(item: FieldChange, q: string | undefined): boolean {
  if (!q) return true;
  const { caption, from, to, source, record, actor } = item;
  const all = [caption, from, to, source, record.name, actor?.name].join(' ').toLowerCase();
  return q
    .toLowerCase()
    .split(/\s+/)
    .every((word) => all.includes(word));
}

/**
 * Who changed what, field by field, newest first. What the actor may not see is left out, and so is what is gone, but for
 * admins.
 * @throws 404 for a record that the actor does not see
 */
export async function changesOf(
  context: Context,
  asked: AskedChanges,
): Promise<{ items: FieldChange[]; next: string | null }> {
  const isAdmin = requireActor(context).role === 'admin';
  const { recordId } = asked;
  const own = recordId ? await names(context, RECORDS, [recordId]) : null;
  if (own?.size === 0 && !isAdmin) throw notFound('There is no such record.');
  const events = await loadEvents(context, asked);
  const hidden = await hiddenKeys(context);
  const lines = events.flatMap((event) =>
    fieldChanges(event.changes.map(withTermKeys), TOLD_FIELDS)
      .map((line, index): Line => ({ ...line, event, index }))
      .filter(({ field, key }) => field !== 'custom' || !hidden.has(key ?? '')),
  );
  const seen = await names(context, RECORDS, lines.map(recordIdOf));
  const ownFields = await loadOwn(context);
  const nameOf = await pointedTo(context, lines, ownFields);
  const items: FieldChange[] = [];
  let last: string | null = null;
  for (const line of lines) {
    // A page ends with a whole change.
    if (items.length >= asked.limit && line.event.seq !== last) break;
    last = line.event.seq;
    const id = recordIdOf(line);
    // What became a part of the record is gone, and belongs to its history all the same.
    const name = seen.get(id) ?? (own ? [...own.values()][0] : undefined);
    if (name === undefined && !isAdmin) continue;
    const item = itemOf(
      line,
      fieldOf(line, ownFields),
      { name: name ?? 'a record that is gone', id },
      (one) => nameOf(line, one),
    );
    if (matches(item, asked.q)) items.push(item);
  }
  const end = items.length >= asked.limit ? last : (events.at(-1)?.seq ?? null);
  const isMore = events.length === MOST_LOOKED_THROUGH || end !== (events.at(-1)?.seq ?? null);
  return { items, next: isMore && end ? encodeCursor([end]) : null };
}

function itemOf(
  line: Line,
  { caption, type, currency }: ToldField,
  { name, id }: { name: string; id: string },
  nameOf: (id: string) => string | undefined,
): FieldChange {
  const { event, index, table, field, key, row } = line;
  const plain = type === 'day' || type === 'money' || type === 'time' ? type : 'text';
  return {
    key: `${event.id}/${index}`,
    eventId: event.id,
    at: event.at.toISOString(),
    actor: event.actor_id && event.actor ? { id: event.actor_id, name: event.actor } : null,
    source: event.label,
    isUndone: event.undone,
    record: { table: table as Table, id, name },
    field: key ? `${field}.${key}` : field,
    caption: key && field !== 'custom' ? key : caption,
    type: plain,
    from: wordsOf(line.from, nameOf),
    to: wordsOf(line.to, nameOf),
    currency:
      type !== 'money' ? null : (currency ?? (typeof row.currency === 'string' ? row.currency : null)),
    canRestore: !line.isMade && !NOT_RESTORED.has(`${table}.${field}`) && table !== 'contact_points',
  };
}
