import { QueryTypes } from 'sequelize';
import { perform, type Context, type Tools } from '../commands/context';
import { knownRows, update } from './patch';
import { loadImport, lockImport } from './view';

const CHUNK = 2000;

interface Undone {
  row: number;
  outcome: 'made' | 'changed';
  person_id: string;
  before: { fields?: Record<string, unknown>; contacts?: string[] } | null;
}

/** People who were made by the import and on whom nothing was built since. Fixed SQL over every table that refers to people. */
const UNTOUCHED = `
  SELECT p.id FROM people p WHERE p.id = ANY($1::uuid[])
    AND NOT EXISTS (SELECT 1 FROM ledger_links l WHERE l.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM leads l WHERE l.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM deal_roles r WHERE r.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM tasks t WHERE t.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM calls c WHERE c.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM form_submissions s WHERE s.person_id = p.id)
    AND NOT EXISTS (SELECT 1 FROM claims c WHERE c.person_id = p.id AND (c.by_hand OR c.capture_id IS NOT NULL))`;

async function removeMade(context: Context, rows: readonly Undone[]): Promise<Set<string>> {
  const run = (sql: string, ids: readonly string[]): Promise<unknown> =>
    context.sequelize.query(sql, { bind: [ids], transaction: context.tx });
  const found = await context.sequelize.query<{ id: string }>(UNTOUCHED, {
    bind: [rows.map((row) => row.person_id)],
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  const ids = found.map((row) => row.id);
  await run('DELETE FROM claims WHERE person_id = ANY($1::uuid[])', ids);
  await run('DELETE FROM contact_points WHERE person_id = ANY($1::uuid[])', ids);
  await run('DELETE FROM list_members WHERE person_id = ANY($1::uuid[])', ids);
  await run('DELETE FROM people WHERE id = ANY($1::uuid[])', ids);
  return new Set(ids);
}

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
    Object.assign(person, before.fields ?? {});
    restored.set(person_id, person);
    contacts.push(...(before.contacts ?? []));
  }
  await context.sequelize.query('DELETE FROM contact_points WHERE id = ANY($1::uuid[])', {
    bind: [contacts],
    transaction: context.tx,
  });
  await update(context, [...restored.values()]);
}

async function removeCompanies(context: Context, id: string): Promise<void> {
  await context.sequelize.query(
    `DELETE FROM companies c WHERE c.id IN (SELECT value::uuid FROM imports m, jsonb_array_elements_text(coalesce(m.reading->'companies', '[]')) WHERE m.id = $1)
        AND NOT EXISTS (SELECT 1 FROM people p WHERE p.company_id = c.id) AND NOT EXISTS (SELECT 1 FROM deals d WHERE d.company_id = c.id)
        AND NOT EXISTS (SELECT 1 FROM leads l WHERE l.company_id = c.id) AND NOT EXISTS (SELECT 1 FROM ledger_links k WHERE k.company_id = c.id)
        AND NOT EXISTS (SELECT 1 FROM tasks t WHERE t.company_id = c.id) AND NOT EXISTS (SELECT 1 FROM claims m WHERE m.company_id = c.id)`,
    { bind: [id], transaction: context.tx },
  );
}

async function undoChunk(tools: Tools, id: string): Promise<boolean> {
  return perform(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await loadImport(context, id, true);
    if (one.state !== 'undoing') return false;
    const rows = await context.sequelize.query<Undone>(
      `SELECT row, outcome, person_id, before FROM import_rows WHERE import_id = :id AND outcome IN ('made', 'changed') AND reason <> 'kept' ORDER BY row DESC LIMIT :limit`,
      { replacements: { id, limit: CHUNK }, type: QueryTypes.SELECT, transaction: context.tx },
    );
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
      await context.write.event('undo import', `Took back the import of ${one.name}`, one.createdBy);
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
  while (await undoChunk(tools, id));
}
