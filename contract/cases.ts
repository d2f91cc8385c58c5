import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, Page, routes, sortedBy, Time, Version } from './common';
import { Task } from './tasks';

export const Urgency = z.enum(['urgent', 'normal', 'low']);
export const CaseRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  urgency: Urgency,
  state: z
    .enum(['new', 'ours', 'theirs', 'answered', 'solved'])
    .describe(
      'new: nobody answered yet; ours: they wait for us; theirs: we wait for them; answered: neither',
    ),
  dueAt: Time.nullable().describe('by when the next thing that was promised is due'),
  late: z.enum(['answer', 'solution']).nullable().describe('which promise is broken'),
  person: Named.nullable(),
  company: Named.nullable(),
  owner: Named,
  cameBy: z.enum(['mail', 'call', 'form', 'other']),
  openedAt: Time,
  answerBy: Time,
  answeredAt: Time.nullable(),
  solveBy: Time,
  solvedAt: Time.nullable(),
});
export type CaseRow = z.infer<typeof CaseRow>;
export const CaseDetail = CaseRow.extend({
  words: z.string(),
  solution: z.string(),
  deal: Named.nullable(),
  captureId: Id.nullable(),
  openedBy: z.string().nullable(),
  moves: z.array(Task).describe('its open tasks, those due first before; at most twenty'),
});
export type CaseDetail = z.infer<typeof CaseDetail>;
export const CasePromise = z.object({
  id: Id,
  version: z.int(),
  urgency: Urgency,
  answerHours: z.int().describe('working hours'),
  solveHours: z.int().describe('working hours'),
});
export type CasePromise = z.infer<typeof CasePromise>;

const Words = z.string().trim().max(10_000);

export const caseRoutes = routes({
  'GET /api/case-promises': {
    summary: 'Within how many working hours cases are answered and solved',
    tag: 'cases',
    reply: z.object({ items: z.array(CasePromise) }),
  },
  'PATCH /api/case-promises/:id': {
    summary: 'Change within how many working hours cases are answered and solved',
    tag: 'cases',
    params: IdParam,
    right: 'settings.organisation',
    body: z.object({
      version: Version,
      answerHours: z.int().min(1).max(1000).optional(),
      solveHours: z.int().min(1).max(2000).optional(),
    }),
    reply: Done,
  },
  'GET /api/cases': {
    summary: 'Cases, what is due first before',
    tag: 'cases',
    right: 'projects.see',
    query: Page.extend({
      ...sortedBy(['dueAt', 'openedAt', 'title'], 'dueAt'),
      state: z.enum(['open', 'solved', 'all']).default('open'),
      urgency: Urgency.optional(),
      owner: Id.optional(),
      personId: Id.optional(),
      companyId: Id.optional(),
      q: z.string().max(200).optional().describe('beginnings of words of the title'),
    }),
    reply: z.object({ items: z.array(CaseRow), next: z.string().nullable() }),
  },
  'POST /api/cases': {
    summary: 'Open a case for a person or a company',
    tag: 'cases',
    status: 201,
    body: z.object({
      title: Line(200),
      words: Words.optional(),
      personId: Id.nullish(),
      companyId: Id.nullish(),
      dealId: Id.nullish(),
      urgency: Urgency.default('normal'),
      ownerId: Id.optional(),
      entryId: Id.optional().describe('the entry of the ledger in which it was told'),
    }),
    reply: Done.extend({ id: Id }),
  },
  'GET /api/cases/:id': {
    summary: 'One case with its times and open tasks',
    tag: 'cases',
    right: 'projects.see',
    params: IdParam,
    reply: CaseDetail,
  },
  'PATCH /api/cases/:id': {
    summary: 'Change a case, solve it, or open it again',
    tag: 'cases',
    params: IdParam,
    body: z.object({
      version: Version,
      title: Line(200).optional(),
      words: Words.optional(),
      urgency: Urgency.optional(),
      ownerId: Id.optional(),
      personId: Id.nullish(),
      companyId: Id.nullish(),
      dealId: Id.nullish(),
      solved: z.boolean().optional(),
      solution: z.string().trim().max(2000).optional(),
      because: z.string().trim().max(500).optional().describe('why, for the ledger'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
});
