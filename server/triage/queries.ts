import { countedPlainly } from '@emporikon/core/people/counts';
import type { Reply } from '@emporikon/contract';
import type { TriageCard } from '@emporikon/contract/triage';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { cappedCount } from '../db/counting';
import { loadLookUpRecords, wholeCompleteness } from '../lookups/planning/known';

interface Pile {
  list?: string;
  import?: string;
  tag?: string;
}

/** Whose turn it is to be decided on: of a list, an import or a tag everybody, else strangers. Fixed SQL, chosen by key. */
function pileSql(pile: Pile): string {
  if (pile.list)
    return 'EXISTS (SELECT 1 FROM list_members m WHERE m.person_id = p.id AND m.list_id = :list)';
  if (pile.import)
    return "EXISTS (SELECT 1 FROM import_rows r WHERE r.person_id = p.id AND r.import_id = :import AND r.outcome IN ('made', 'changed'))";
  return pile.tag ? 'p.tags @> ARRAY[:tag]::text[]' : "p.standing = 'stranger'";
}

interface Row {
  id: string;
  last_at: Date | null;
  headline: string | null;
  work: string[];
}

/** The next of a pile, oldest first, and how many are left. */
export async function triagePile(
  context: Context,
  query: Pile & { limit: number },
): Promise<Reply<'GET /api/triage'>> {
  const within = pileSql(query);
  const replacements = {
    list: query.list ?? null,
    import: query.import ?? null,
    tag: query.tag ?? null,
    limit: query.limit,
  };
  const options = { replacements, type: QueryTypes.SELECT as const, transaction: context.tx };
  const isNarrowed = query.list ?? query.import ?? query.tag;
  const [counts] = await context.sequelize.query<{ left: number; done: number }>(
    `SELECT ${cappedCount(`people p WHERE ${within} AND p.triaged_at IS NULL AND p.inactive_since IS NULL`)} AS "left",
            ${cappedCount(isNarrowed ? `people p WHERE ${within} AND p.triaged_at IS NOT NULL` : "people p WHERE p.triaged_at > now() - interval '12 hours'")} AS done`,
    options,
  );
  const rows = await context.sequelize.query<Row>(
    `SELECT p.id, said.at AS last_at, said.headline,
            ARRAY(SELECT title || ', ' || status FROM leads l WHERE l.person_id = p.id ORDER BY created_at DESC LIMIT 3)
              || ARRAY(SELECT d.title FROM deals d JOIN deal_roles r ON r.deal_id = d.id WHERE r.person_id = p.id LIMIT 3) AS work
       FROM people p LEFT JOIN LATERAL (
         SELECT e.at, e.headline FROM ledger_links k JOIN ledger_entries e ON e.id = k.entry_id
          WHERE k.person_id = p.id AND e.kind <> 'change' ORDER BY k.at DESC, k.entry_id DESC LIMIT 1) said ON true
      WHERE ${within} AND p.triaged_at IS NULL AND p.inactive_since IS NULL ORDER BY p.created_at, p.id LIMIT :limit`,
    options,
  );
  const looked = await loadLookUpRecords(
    context,
    rows.map((row) => ({ personId: row.id, companyId: null })),
  );
  const items = looked.flatMap<TriageCard>((one) => {
    const row = rows.find((each) => each.id === one.person?.id);
    const { person, company } = one;
    if (!row || !person) return [];
    return {
      id: person.id,
      name: person.fullName,
      jobTitle: person.jobTitle,
      company: company ? { id: company.id, name: company.name } : null,
      firm: [
        company?.industry,
        company?.employees ? countedPlainly(company.employees, 'person', 'people') : null,
        company?.country,
      ]
        .filter(Boolean)
        .join(', '),
      standing: person.standing,
      standingTerm: person.standingTerm,
      contacts: one.contacts.map((contact) => contact.value),
      address: person.address,
      background: person.background ?? null,
      tags: person.tags ?? [],
      last: row.last_at ? { at: row.last_at.toISOString(), headline: row.headline ?? '' } : null,
      work: row.work,
      completeness: wholeCompleteness(one),
    };
  });
  return { left: counts?.left ?? 0, done: counts?.done ?? 0, items };
}
