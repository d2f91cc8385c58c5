import { z } from 'zod';
import { Days } from './round';
import { Claim, Match } from './captures';
import {
  Country,
  Done,
  Id,
  IdParam,
  Line,
  Named,
  Page,
  routes,
  sortedBy,
  Time,
  TimeZone,
  Version,
} from './common';
import { MergeNote, ToldApart } from './lookAlikes';
import { Dossier } from './people';
import { OwnTerm, TermKey } from './terms';

export const CompanyKind = z.enum(['firm', 'household']).describe('a household is a family as the customer');
export const CompanyRow = z.object({
  id: Id,
  name: z.string(),
  domain: z.string().nullable(),
  industry: z.string().nullable(),
  employees: z.int().nullable(),
  country: z.string().nullable(),
  people: z.int(),
  openDeals: z.int(),
  updatedAt: Time,
});
export type CompanyRow = z.infer<typeof CompanyRow>;
export const CompanyDossier = Dossier.extend({
  name: z.string(),
  nameClaim: Claim.nullable(),
  domain: z.string().nullable(),
  url: z.string().nullable(),
  phone: z.string().nullable(),
  address: z.string().nullable(),
  legalName: z.string().nullable(),
  industry: z.string().nullable(),
  employees: z.int().nullable(),
  technologies: z.array(z.string()),
  country: z.string().nullable(),
  timeZone: z.string().nullable(),
  kind: CompanyKind,
  kindTerm: OwnTerm,
  parent: Named.nullable().describe('the company it is a branch of'),
  branches: z.array(Named),
  merged: z.array(MergeNote),
  toldApart: z.array(ToldApart),
  claims: z.array(Claim),
  people: z.array(Named.extend({ jobTitle: z.string().nullable() })),
  rhythmDays: z.int().nullable(),
  isImportant: z.boolean(),
});
export type CompanyDossier = z.infer<typeof CompanyDossier>;
const Counted = z.array(z.object({ name: z.string(), companies: z.int() }));
const Domain = z
  .string()
  .trim()
  .toLowerCase()
  .regex(/^(?:[\p{L}\p{N}-]+\.)+\p{L}{2,}$/u, 'a domain such as padariasol.example')
  .max(253);

export const companyRoutes = routes({
  'GET /api/companies': {
    summary: 'Companies, by name',
    tag: 'companies',
    right: 'companies.see',
    query: Page.extend({
      q: z.string().max(200).optional(),
      industry: z.string().max(120).optional(),
      country: Country.optional(),
      technology: z.string().max(60).optional(),
      atLeast: z.coerce.number().int().min(0).max(5_000_000).optional().describe('employees'),
      atMost: z.coerce.number().int().min(0).max(5_000_000).optional().describe('employees'),
      news: z
        .literal('mine')
        .optional()
        .describe('those on which colleagues entered something since you looked'),
      ...sortedBy(['name', 'domain', 'industry', 'country', 'employees'], 'name'),
    }),
    reply: z.object({ items: z.array(CompanyRow), next: z.string().nullable() }),
  },
  'GET /api/companies/kinds': {
    summary: 'Industries, countries and technologies there are, with how many companies each',
    tag: 'companies',
    reply: z.object({ industries: Counted, countries: Counted, technologies: Counted }),
  },
  'POST /api/companies': {
    summary: 'Add a company by hand',
    tag: 'companies',
    status: 201,
    body: z.object({ name: Line(200), domain: Domain.nullish(), kind: TermKey.optional() }),
    reply: Done.extend({ company: CompanyRow }),
  },
  'POST /api/companies/find-or-create': {
    summary: 'A company by its domain, else by the verdict on name and domain, made if there is none',
    tag: 'companies',
    body: z
      .object({
        name: Line(200).optional(),
        domain: Domain.optional(),
        onMaybe: z.enum(['ask', 'create', 'reject']).default('ask'),
      })
      .refine((one) => one.name || one.domain, { path: ['name'], error: 'say a name or a domain' }),
    reply: Done.extend({
      outcome: z.enum(['found', 'created', 'maybe']),
      created: z.boolean(),
      company: CompanyRow.nullable(),
      matches: z.array(Match),
    }),
  },
  'GET /api/companies/:id': {
    summary: 'The dossier of a company',
    tag: 'companies',
    right: 'companies.see',
    params: IdParam,
    reply: CompanyDossier,
  },
  'PATCH /api/companies/:id': {
    summary: 'Change facts by hand',
    tag: 'companies',
    params: IdParam,
    body: z.object({
      version: Version,
      because: Line(500).optional().describe('a sentence on why, for the ledger'),
      name: Line(200).optional(),
      domain: Domain.nullable().optional(),
      url: Line(300).nullable().optional(),
      phone: Line(60).nullable().optional(),
      address: Line(400).nullable().optional(),
      ownerId: Id.nullable().optional(),
      kind: TermKey.optional(),
      parentId: Id.nullable().optional(),
      legalName: Line(300).nullable().optional(),
      industry: Line(120).nullable().optional(),
      employees: z.int().min(0).max(5_000_000).nullable().optional(),
      technologies: z.array(Line(60)).max(40).optional(),
      country: Country.nullable().optional(),
      timeZone: TimeZone.nullable().optional(),
      rhythmDays: Days.nullable().optional().describe('how often you mean to be in touch'),
      isImportant: z.boolean().optional().describe('weighs more in the round'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
});
