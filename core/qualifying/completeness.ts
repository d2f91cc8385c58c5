/** What a record is made of, and how much each part counts; a hundred points in all. By judgement of what a rep needs. */
interface Part {
  field: string;
  label: string;
  points: number;
}

export const PERSON_PARTS = [
  { field: 'fullName', label: 'Full name', points: 10 },
  { field: 'email', label: 'Email', points: 25 },
  { field: 'phone', label: 'Phone', points: 20 },
  { field: 'companyName', label: 'Company', points: 20 },
  { field: 'jobTitle', label: 'Job title', points: 15 },
  { field: 'timeZone', label: 'Time zone', points: 5 },
  { field: 'address', label: 'Address', points: 5 },
] as const satisfies readonly Part[];

export const COMPANY_PARTS = [
  { field: 'name', label: 'Name', points: 10 },
  { field: 'domain', label: 'Domain', points: 20 },
  { field: 'industry', label: 'Industry', points: 15 },
  { field: 'employees', label: 'Employees', points: 15 },
  { field: 'address', label: 'Address', points: 10 },
  { field: 'country', label: 'Country', points: 10 },
  { field: 'phone', label: 'Switchboard', points: 5 },
  { field: 'legalName', label: 'Legal name', points: 5 },
  { field: 'timeZone', label: 'Time zone', points: 5 },
  { field: 'technologies', label: 'Technology', points: 5 },
] as const satisfies readonly Part[];

export interface Completeness {
  /** 0 to 100. */
  score: number;
  /** What is missing, what brings most first. */
  missing: { field: string; label: string; points: number }[];
}

/**
 * How complete a record is, and what to add next.
 * @param parts what it is made of
 * @param has whether a field is there
 */
export function completenessOf(parts: readonly Part[], has: (field: string) => boolean): Completeness {
  const missing = parts.filter((part) => !has(part.field));
  const all = parts.reduce((sum, one) => sum + one.points, 0);
  const lost = missing.reduce((sum, one) => sum + one.points, 0);
  return {
    score: Math.round(((all - lost) / all) * 100),
    missing: missing
      .map(({ field, label, points }) => ({ field, label, points }))
      .sort((a, b) => b.points - a.points),
  };
}

/** A name of one word is not a full name. */
export const isFullName = (name: string): boolean => /\S\s+\S/.test(name.trim());

/** Completeness of a lead: of its person and its company, the person counting three parts of five. */
export const leadCompleteness = (person: number, company: number | null): number =>
  Math.round(company === null ? person * 0.6 : person * 0.6 + company * 0.4);
