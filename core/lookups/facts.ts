/** What look-ups are asked for, of a person and of a company. */
export const PERSON_FACTS = ['email', 'phone', 'jobTitle', 'timeZone'] as const;
export const COMPANY_FACTS = [
  'companyName',
  'domain',
  'legalName',
  'industry',
  'employees',
  'technologies',
  'address',
  'country',
  'timeZone',
  'phone',
] as const;
export type PersonFact = (typeof PERSON_FACTS)[number];
export type CompanyFact = (typeof COMPANY_FACTS)[number];
export type FactField = PersonFact | CompanyFact;

/** The fields of a claim that only companies have. */
export const COMPANY_ONLY = [
  'domain',
  'legalName',
  'industry',
  'employees',
  'technologies',
  'country',
] as const satisfies readonly CompanyFact[];
export type CompanyOnly = (typeof COMPANY_ONLY)[number];

/** Who a fact is about. */
export type Subject = 'person' | 'company';

/** How a field is called to a person. */
export const FACT_NAMES: Record<FactField, string> = {
  email: 'Email',
  phone: 'Phone',
  jobTitle: 'Job title',
  timeZone: 'Time zone',
  companyName: 'Name of the company',
  domain: 'Domain',
  legalName: 'Legal name',
  industry: 'Industry',
  employees: 'Employees',
  technologies: 'Technology',
  address: 'Address',
  country: 'Country',
};

/** One thing a source says. */
export interface FoundFact {
  about: Subject;
  field: FactField;
  value: string;
  /** 0 to 1, as the source itself puts it. */
  confidence: number;
}

/** What is known of somebody when a source is to be asked. Empty strings where nothing is known. */
export interface Known {
  fullName: string;
  companyName: string;
  domain: string;
  /** ISO 3166-1 alpha-2. */
  country: string;
}
