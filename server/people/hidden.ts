import type { PersonFacts } from '@emporikon/core/matching/evidence';
import type { CompanyFacts } from '@emporikon/core/matching/firms';
import { askPrepared } from '../db/prepared';
import type { Context } from '../commands/context';
import { pastSight } from '../commands/sight';

/**
 * Whether somebody told of shares an address, number or page with a person, or a domain with a company, that the actor
 * cannot see. That there is one is all that is told.
 */
export async function mayBeHidden(
  context: Context,
  person: PersonFacts,
  company: CompanyFacts | null,
): Promise<boolean> {
  const [row] = await pastSight(context, () =>
    askPrepared<{ hidden: boolean }>(
      context,
      `WITH met AS (
         SELECT person_id AS id FROM contact_points WHERE kind = 'email' AND normalized = ANY ($emails::text[])
         UNION ALL SELECT person_id FROM contact_points WHERE kind = 'phone' AND normalized COLLATE "C" = ANY ($phones::text[])
         UNION ALL SELECT person_id FROM contact_points WHERE kind = 'profile' AND normalized = ANY ($profiles::text[])
         UNION ALL SELECT id FROM companies WHERE domain = $domain)
       SELECT EXISTS (SELECT 1 FROM restricted) AND EXISTS (
         SELECT 1 FROM met JOIN restricted r USING (id) WHERE r.seen_by <> ALL (my_audiences())) AS hidden`,
      {
        emails: [...person.emails],
        phones: [...person.phones],
        profiles: [...(person.profiles ?? [])],
        domain: company?.domain ?? null,
      },
    ),
  );
  return row?.hidden ?? false;
}
