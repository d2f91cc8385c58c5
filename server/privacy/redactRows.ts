import { redactData } from '@emporikon/core/privacy/redact';
import type { Context } from '../commands/context';
import { ask } from './sql';
import type { PersonScope } from './scope';

/** Texts that stay for others, and in which only what names the person goes. */
const TEXTS: readonly { table: string; columns: readonly string[]; where: string }[] = [
  {
    table: 'ledger_entries',
    columns: ['headline', 'body', 'said', 'reading'],
    where: 't.id = ANY ($shared::uuid[])',
  },
  { table: 'ledger_revisions', columns: ['headline', 'body'], where: 't.entry_id = ANY ($shared::uuid[])' },
  { table: 'annotations', columns: ['words'], where: 't.entry_id = ANY ($shared::uuid[])' },
  { table: 'deals', columns: ['title', 'custom'], where: 't.id = ANY ($deals::uuid[])' },
  { table: 'projects', columns: ['title', 'notes', 'custom'], where: 't.id = ANY ($projects::uuid[])' },
  { table: 'quotes', columns: ['content'], where: 't.deal_id = ANY ($deals::uuid[])' },
  {
    table: 'tasks',
    columns: ['title', 'notes', 'checklist', 'asked', 'place', 'custom', 'declined'],
    where: 't.id = ANY ($tasks::uuid[])',
  },
  { table: 'task_messages', columns: ['words'], where: 't.task_id = ANY ($tasks::uuid[])' },
  {
    table: 'notices',
    columns: ['title', 'detail'],
    where:
      't.person_id = $person::uuid OR t.deal_id = ANY ($deals::uuid[]) OR t.entry_id = ANY ($shared::uuid[]) OR t.task_id = ANY ($tasks::uuid[])',
  },
  { table: 'imports', columns: ['name', 'reading'], where: 't.id = ANY ($imports::uuid[])' },
  {
    table: 'files',
    columns: ['name'],
    where: 't.entry_id = ANY ($shared::uuid[]) OR t.task_id = ANY ($tasks::uuid[])',
  },
];
const PAGE = 500;

interface Row {
  id: string;
  row: Record<string, unknown>;
}

/** Takes what names the person out of texts that others have a part in. @returns how many rows it stood in */
export async function redactTexts(
  context: Context,
  scope: PersonScope,
  redact: (text: string) => string,
): Promise<Record<string, number>> {
  const counts: Record<string, number> = {};
  for (const { table, columns, where } of TEXTS) {
    const picked = columns.map((column) => `'${column}', t.${column}`).join(', ');
    for (let after = '00000000-0000-0000-0000-000000000000'; ;) {
      const rows = await ask<Row>(
        context,
        `SELECT t.id, jsonb_build_object(${picked}) AS row FROM ${table} t WHERE (${where}) AND t.id > $after::uuid ORDER BY t.id LIMIT ${PAGE}`,
        { ...scope, after },
      );
      const changed = rows.flatMap(({ id, row }) => {
        const clean = redactData(row, redact) as Row['row'];
        return JSON.stringify(clean) === JSON.stringify(row) ? [] : [{ id, ...clean }];
      });
      if (changed.length)
        await ask(
          context,
          `UPDATE ${table} t SET ${columns.map((column) => `${column} = r.${column}`).join(', ')}
             FROM jsonb_populate_recordset(NULL::${table}, $rows::jsonb) r WHERE t.id = r.id`,
          { rows: JSON.stringify(changed) },
        );
      counts[table] = (counts[table] ?? 0) + changed.length;
      if (rows.length < PAGE) break;
      after = rows[PAGE - 1]?.id ?? after;
    }
  }
  return counts;
}
