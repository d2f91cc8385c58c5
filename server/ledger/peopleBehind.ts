import type { LedgerOwner } from './page';

/** The people who stand behind a record: themselves, who works there, who has a part in it; as SQL over `:id`. */
export const PEOPLE_BEHIND: Readonly<Record<LedgerOwner, string>> = {
  personId: 'SELECT id FROM people WHERE id = :id',
  companyId: 'SELECT id FROM people WHERE company_id = :id LIMIT 1000',
  leadId: 'SELECT person_id AS id FROM leads WHERE id = :id AND person_id IS NOT NULL',
  dealId: 'SELECT person_id AS id FROM deal_roles WHERE deal_id = :id',
  projectId: 'SELECT person_id AS id FROM project_people WHERE project_id = :id',
  caseId: 'SELECT person_id AS id FROM cases WHERE id = :id AND person_id IS NOT NULL',
};
