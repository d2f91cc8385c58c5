import type { ToldApart } from '@emporikon/contract/lookAlikes';
import type { Context } from '../commands/context';
import type { Apart } from './judge';
import type { RecordKind } from './links';
import { ask } from './move';
import { namesOf } from './queries';

interface Row {
  id: string;
  how: Apart;
  other: string;
  said_at: Date;
  actor_id: string | null;
  actor: string | null;
}

const MOST = 20;

/** The namesakes of a record, and who is its father or son, as somebody answered; newest first. */
export async function toldApartFrom(context: Context, kind: RecordKind, id: string): Promise<ToldApart[]> {
  const rows = await ask<Row>(
    context,
    `WITH mine AS (SELECT $id::uuid AS id UNION SELECT id FROM forwardings WHERE to_id = $id::uuid),
       told AS (SELECT a.id, a.how, a.other, a.said_at, a.said_by FROM kept_apart a JOIN mine ON mine.id = a.one WHERE a.how <> 'different'
         UNION ALL SELECT a.id, a.how, a.one, a.said_at, a.said_by FROM kept_apart a JOIN mine ON mine.id = a.other WHERE a.how <> 'different')
     SELECT t.id, t.how, coalesce(f.to_id, t.other)::text AS other, t.said_at, u.id AS actor_id, u.name AS actor
       FROM told t LEFT JOIN forwardings f ON f.id = t.other LEFT JOIN users u ON u.id = t.said_by
      ORDER BY t.said_at DESC, t.id LIMIT ${MOST}`,
    { id },
  );
  const names = await namesOf(
    context,
    kind,
    rows.map((row) => row.other),
  );
  return rows.flatMap(({ id: answer, how, other, said_at, actor_id, actor }) => {
    const named = names.get(other);
    if (!named || other === id) return [];
    return [
      {
        id: answer,
        how,
        other: named,
        at: said_at.toISOString(),
        actor: actor_id && actor ? { id: actor_id, name: actor } : null,
      },
    ];
  });
}
