import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, Named, routes, Version } from './common';

export const RelationKind = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  reverse: z.string(),
  isLine: z.boolean(),
  active: z.boolean(),
});
export type RelationKind = z.infer<typeof RelationKind>;
export const RelationRow = z.object({
  id: Id,
  kindId: Id,
  words: z.string().describe('as seen from the person asked about: `reports to`, or `manages`'),
  person: Named.extend({ jobTitle: z.string().nullable(), company: z.string().nullable() }),
});
export type RelationRow = z.infer<typeof RelationRow>;
export const EmploymentRow = z.object({
  id: Id,
  version: z.int(),
  person: Named,
  company: Named,
  jobTitle: z.string(),
  fromDay: Day.nullable(),
  untilDay: Day.nullable(),
  isFormer: z.boolean(),
});
export type EmploymentRow = z.infer<typeof EmploymentRow>;
const Node = Named.extend({ jobTitle: z.string().nullable(), isOutside: z.boolean() });
const OrgLine = z.object({ from: Id, to: Id });
export const OrgChart = z.object({
  people: z.array(Node),
  lines: z.array(OrgLine),
  loops: z.array(OrgLine).describe('lines that would close a loop, which are not drawn'),
  heads: z.array(Id),
});
export type OrgChart = z.infer<typeof OrgChart>;
const title = z.string().trim().max(200);

export const relationRoutes = routes({
  'GET /api/relation-kinds': {
    summary: 'What people can be to each other',
    tag: 'relations',
    reply: z.object({ items: z.array(RelationKind) }),
  },
  'POST /api/relation-kinds': {
    summary: 'Add a kind of relation',
    tag: 'relations',
    status: 201,
    right: 'settings.fields',
    body: z.object({ name: Line(60), reverse: Line(60), isLine: z.boolean().default(false) }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/relation-kinds/:id': {
    summary: 'Rename or retire a kind; relations of it stay',
    tag: 'relations',
    params: IdParam,
    right: 'settings.fields',
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      reverse: Line(60).optional(),
      isLine: z.boolean().optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
  'GET /api/people/:id/relations': {
    summary: 'Who somebody is to others, and where else they work or worked',
    tag: 'relations',
    right: 'people.see',
    params: IdParam,
    reply: z.object({ items: z.array(RelationRow), employments: z.array(EmploymentRow) }),
  },
  'POST /api/people/:id/relations': {
    summary: 'Say what somebody is to another; twice makes no second',
    tag: 'relations',
    params: IdParam,
    status: 201,
    body: z.object({
      kindId: Id,
      personId: Id,
      isReverse: z.boolean().default(false).describe('the other way round: they are it to this one'),
    }),
    reply: Done.extend({ id: Id }),
  },
  'DELETE /api/relations/:id': {
    summary: 'Remove a relation',
    tag: 'relations',
    params: IdParam,
    reply: Done,
  },
  'POST /api/people/:id/employments': {
    summary: 'Where else somebody works, or worked before',
    tag: 'relations',
    params: IdParam,
    status: 201,
    body: z.object({
      companyId: Id.optional(),
      companyName: Line(200).optional(),
      jobTitle: title.default(''),
      fromDay: Day.nullish(),
      untilDay: Day.nullish(),
    }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/employments/:id': {
    summary: 'Change one',
    tag: 'relations',
    params: IdParam,
    body: z.object({
      version: Version,
      jobTitle: title.optional(),
      fromDay: Day.nullable().optional(),
      untilDay: Day.nullable().optional(),
    }),
    reply: Done,
  },
  'DELETE /api/employments/:id': { summary: 'Remove one', tag: 'relations', params: IdParam, reply: Done },
  'GET /api/companies/:id/chart': {
    summary: 'Who reports to whom at a company, without loops, and who else works or worked there',
    tag: 'relations',
    right: 'companies.see',
    params: IdParam,
    reply: OrgChart.extend({ employments: z.array(EmploymentRow) }),
  },
});
