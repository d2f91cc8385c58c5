import { DatabaseError } from 'sequelize';
import { hiddenRecord, type ProblemError } from '../http/problems';
import { enterAs } from './sight';
import type { Actor, Tools } from './types';

/** What stands there once only is on a record that the writer cannot see (migration 0015). */
const HIDDEN_TWIN = 'EH001';

interface HiddenTwin {
  kind: string;
  id: string;
}

/** The hidden record that a write came upon; null where that is not why it failed. */
export function hiddenTwinOf(error: unknown): HiddenTwin | null {
  const cause = (error instanceof DatabaseError ? error.parent : error) as { code?: string; detail?: string };
  if (cause.code !== HIDDEN_TWIN) return null;
  const [kind = '', id = ''] = (cause.detail ?? '').split('/');
  return { kind, id };
}

/** Notes for those who manage the record who came upon it. Nothing of it is told to the one who did. */
export async function refuseHiddenTwin(
  tools: Tools,
  actor: Actor,
  { kind, id }: HiddenTwin,
): Promise<ProblemError> {
  if (kind !== 'people' && kind !== 'companies')
    return hiddenRecord('This is there already, on a record that you cannot see. Nothing was saved.');
  await tools.sequelize.transaction(async (transaction) => {
    await enterAs(tools, transaction, null);
    await tools.sequelize.query(
      `INSERT INTO hidden_matches (id, record_id, kind, met_by, met_at) VALUES (:id, :record, :kind, :by, :at)
       ON CONFLICT (record_id, met_by) WHERE settled_at IS NULL DO UPDATE SET met_at = excluded.met_at`,
      {
        replacements: { id: tools.newId(), record: id, kind, by: actor.id, at: tools.now() },
        transaction,
      },
    );
  });
  return hiddenRecord(
    'This belongs to a record that you cannot see. Nothing was saved; whoever manages that record has been told.',
  );
}
