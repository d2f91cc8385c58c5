import type { MergeNote } from '@emporikon/contract/lookAlikes';
import type { Context } from '../commands/context';
import type { RecordKind } from './links';
import { ask, type Moved } from './move';

export interface MergeRow {
  id: string;
  kind: RecordKind;
  survivor_id: string;
  merged_id: string;
  label: string;
  moved: Moved;
  actor_id: string | null;
  actor: string | null;
  at: Date;
  unmerged_at: Date | null;
}

const NOTE = `SELECT m.id, m.kind, m.survivor_id, m.merged_id, m.label, m.actor_id, u.name AS actor, m.at, m.unmerged_at
  FROM merges m LEFT JOIN users u ON u.id = m.actor_id`;
/** The same with all that was moved. */
export const MERGES = NOTE.replace('SELECT ', 'SELECT m.moved, ');

export const asNote = (row: Omit<MergeRow, 'moved'>): MergeNote => ({
  id: row.id,
  kind: row.kind,
  survivorId: row.survivor_id,
  mergedId: row.merged_id,
  label: row.label,
  at: row.at.toISOString(),
  actor: row.actor_id && row.actor ? { id: row.actor_id, name: row.actor } : null,
  unmergedAt: row.unmerged_at?.toISOString() ?? null,
});

/** What was merged into a record and still is, newest first. */
export async function mergesInto(context: Context, recordId: string): Promise<MergeNote[]> {
  const rows = await ask<Omit<MergeRow, 'moved'>>(
    context,
    `${NOTE} JOIN (SELECT $id::uuid AS id UNION SELECT id FROM forwardings WHERE to_id = $id::uuid) s ON m.survivor_id = s.id
      WHERE m.unmerged_at IS NULL ORDER BY m.at DESC, m.id LIMIT 100`,
    { id: recordId },
  );
  return rows.map(asNote);
}
