import type { ImportChoices } from '@emporikon/contract/imports';
import type { Context } from '../commands/context';
import { purposesMeant } from '../consent/statements';
import type { Import } from '../db/models/imports';

/** Notes for the people of a chunk what the list says of all of them. Whoever withdrew, or agreed before, stays as they are. */
export async function importConsents(
  context: Context,
  { id, name }: Import,
  { consent, purposeIds }: Pick<ImportChoices, 'consent' | 'purposeIds'>,
  people: readonly string[],
): Promise<void> {
  if (!people.length) return;
  await context.sequelize.query(
    `INSERT INTO consents (id, person_id, purpose_id, state, at, how, source, address, import_id)
     SELECT gen_random_uuid(), w.id, p.id, $state, $now, 'import', $name,
            (SELECT k.value FROM contact_points k WHERE k.person_id = w.id AND k.kind = 'email' ORDER BY k.created_at, k.id LIMIT 1), $import::uuid
       FROM (SELECT DISTINCT unnest($people::uuid[]) AS id) w CROSS JOIN unnest($purposes::uuid[]) p(id)
      WHERE NOT EXISTS (SELECT 1 FROM consents c WHERE c.person_id = w.id AND c.purpose_id = p.id AND c.topic_id IS NULL
                           AND (c.state IN ('agreed', 'withdrawn') OR c.state = $state))`,
    {
      bind: {
        ...{ state: consent, now: context.now(), name, import: id, people: [...people] },
        purposes: await purposesMeant(context, purposeIds),
      },
      transaction: context.tx,
    },
  );
}
