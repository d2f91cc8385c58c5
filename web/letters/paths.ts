import type { Letter } from '@emporikon/contract/letters';

/** The page of the record that a letter is about; that of all letters where it is about none. */
export function recordPath({ person, dealId, companyId, projectId, caseId }: Letter['about']): string {
  if (person) return `/people/${person.id}`;
  if (dealId) return `/deals/${dealId}`;
  if (projectId) return `/projects/${projectId}`;
  if (caseId) return `/cases/${caseId}`;
  return companyId ? `/companies/${companyId}` : '/mailings/letters';
}
