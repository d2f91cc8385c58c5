import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import { recordTarget, undoRecords } from './recordJobs';
import { knownRows, update } from './patch';
import { loadImport, lockImport } from './view';

const CHUNK = 2000;

interface Undone {
  row: number;
  outcome: 'made' | 'changed';
  person_id: string;
  before: { fields?: Record<string, unknown>; after?: Record<string, unknown>; contacts?: string[] } | null;
}

/** Rows that go with a record they point to: part of it, or only noted of it. None of them is built on it by anybody. */
const ownReferences = (
  context: Context,
  target: 'people' | 'companies',
): { table: string; column: string }[] =>
  context.tables.flatMap(({ table, role, refers = [] }) =>
    role === 'part' || role === 'note'
      ? refers.filter(({ to }) => to === target).map(({ column }) => ({ table, column }))
      : [],
  );

/**
 * Every table whose rows name a person or a company, from the database's own foreign keys, so that one that is added later
 * is not forgotten here. Names come from the catalogue and are quoted by it.
 */
async function referencesTo(
  context: Context,
  target: 'people' | 'companies',
): Promise<{ table: string; column: string }[]> {
  return context.sequelize.query<{ table: string; column: string }>(
    `SELECT quote_ident(t.relname) AS "table", quote_ident(a.attname) AS "column"
       FROM pg_constraint c JOIN pg_class t ON t.oid = c.conrelid JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
      WHERE c.contype = 'f' AND c.confrelid = $target::regclass AND t.relname <> ALL ($own::text[])`,
    {
      bind: { target, own: ownReferences(context, target).map(({ table }) => table) },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
}

/** Those of some people whom nobody has built on or changed since the import made them. */
async function untouched(context: Context, ids: readonly string[]): Promise<string[]> {
  const built = (await referencesTo(context, 'people')).map(
    ({ table, column }) => `AND NOT EXISTS (SELECT 1 FROM ${table} r WHERE r.${column} = p.id)`,
  );
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT p.id FROM people p WHERE p.id = ANY($1::uuid[]) ${built.join(' ')}
        AND NOT EXISTS (SELECT 1 FROM claims c WHERE c.person_id = p.id AND (c.by_hand OR c.capture_id IS NOT NULL))
        AND NOT EXISTS (SELECT 1 FROM events e WHERE e.actor_id IS NOT NULL
              AND e.changes @> jsonb_build_array(jsonb_build_object('table', 'people', 'id', p.id::text)))`,
    { bind: [ids], type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => row.id);
}

async function removeMade(context: Context, rows: readonly Undone[]): Promise<Set<string>> {
  const run = (sql: string, ids: readonly string[]): Promise<unknown> =>
    context.sequelize.query(sql, { bind: [ids], transaction: context.tx });
  const ids = await untouched(
    context,
    rows.map((row) => row.person_id),
  );
  // In one statement, so that rows of these that point to each other go in any order.
  const parts = ownReferences(context, 'people').map(
    ({ table, column }, at) => `d${at} AS (DELETE FROM ${table} WHERE ${column} = ANY($1::uuid[]))`,
  );
  await run(`WITH ${parts.join(', ')} SELECT`, ids);
  await run('DELETE FROM people WHERE id = ANY($1::uuid[])', ids);
  return new Set(ids);
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

async function restoreChanged(context: Context, rows: readonly Undone[]): Promise<void> {
  const people = await knownRows(
    context,
    rows.map((row) => ({
      row: row.row,
      personId: row.person_id,
      act: 'change',
      data: { name: '', emails: [], phones: [], links: [] },
    })),
  );
  const restored = new Map<string, Parameters<typeof update>[1][number]>();
  const contacts: string[] = [];
  for (const { person_id, before } of rows) {
    const person = people.get(person_id);
    if (!person || !before) continue;
    // What somebody changed after the import is theirs and stays.
    for (const [key, value] of Object.entries(before.fields ?? {}))
      if (!before.after || same(person[key as keyof typeof person], before.after[key]))
        Object.assign(person, { [key]: value });
    restored.set(person_id, person);
    contacts.push(...(before.contacts ?? []));
  }
  await context.sequelize.query('DELETE FROM contact_points WHERE id = ANY($1::uuid[]) AND version = 1', {
    bind: [contacts],
    transaction: context.tx,
  });
  await update(context, [...restored.values()]);
}

/** The companies that the import made and that nobody uses, or has changed, are removed. */
async function removeCompanies(context: Context, id: string): Promise<void> {
  const used = (await referencesTo(context, 'companies')).map(
    ({ table, column }) => `AND NOT EXISTS (SELECT 1 FROM ${table} r WHERE r.${column} = c.id)`,
  );
  await context.sequelize.query(
    `DELETE FROM companies c WHERE c.id IN (SELECT value::uuid FROM imports m, jsonb_array_elements_text(coalesce(m.reading->'companies', '[]')) WHERE m.id = $1)
        ${used.join(' ')} AND NOT EXISTS (SELECT 1 FROM claims m WHERE m.company_id = c.id)
        AND NOT EXISTS (SELECT 1 FROM look_ups k WHERE k.company_id = c.id)
        AND NOT EXISTS (SELECT 1 FROM events e WHERE e.actor_id IS NOT NULL
              AND e.changes @> jsonb_build_array(jsonb_build_object('table', 'companies', 'id', c.id::text)))`,
    { bind: [id], transaction: context.tx },
  );
}

async function undoChunk(tools: Tools, id: string): Promise<boolean> {
  return runInTransaction(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await loadImport(context, id, true);
    if (one.state !== 'undoing') return false;
    const rows = await context.sequelize.query<Undone>(
      `SELECT row, outcome, person_id, before FROM import_rows WHERE import_id = :id AND outcome IN ('made', 'changed') AND reason <> 'kept' ORDER BY row DESC LIMIT :limit`,
      { replacements: { id, limit: CHUNK }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    await context.sequelize.query('DELETE FROM consents WHERE import_id = :id', {
      replacements: { id },
      transaction: context.tx,
    });
    if (!rows.length) {
      await removeCompanies(context, id);
      const [kept] = await context.sequelize.query<{ n: number }>(
        "SELECT count(*)::int AS n FROM import_rows WHERE import_id = :id AND reason = 'kept'",
        { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
      );
      await context.write.update(one, {
        state: 'undone',
        counts: { ...one.counts, kept: kept?.n ?? 0 },
        finishedAt: context.now(),
      });
      await context.write.event('undo import', `Undid the import of ${one.name}`, one.createdBy);
      return false;
    }
    const made = rows.filter((row) => row.outcome === 'made');
    await restoreChanged(
      context,
      rows.filter((row) => row.outcome === 'changed'),
    );
    const gone = await removeMade(context, made);
    const kept = made.filter((row) => !gone.has(row.person_id)).map((row) => row.row);
    const done = rows.map((row) => row.row).filter((row) => !kept.includes(row));
    await context.sequelize.query(
      `UPDATE import_rows SET outcome = CASE WHEN row = ANY($2::int[]) THEN outcome ELSE 'left alone' END,
              reason = CASE WHEN row = ANY($2::int[]) THEN 'kept' ELSE reason END WHERE import_id = $1 AND (row = ANY($2::int[]) OR row = ANY($3::int[]))`,
      { bind: [id, kept, done], transaction: context.tx },
    );
    await context.sequelize.query('UPDATE imports SET done = greatest(0, done - :count) WHERE id = :id', {
      replacements: { id, count: rows.length },
      transaction: context.tx,
    });
    return true;
  });
}

/**
 * Takes a whole import back, newest rows first: who was made is removed unless something was built on them since, who was
 * changed gets back what stood there. Can be cut off and goes on.
 */
export async function undoImport(tools: Tools, id: string): Promise<void> {
  const one = await Import.findByPk(id);
  if (one && recordTarget(one)) return undoRecords(tools, one);
  while (await undoChunk(tools, id));
}
