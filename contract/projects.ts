import { z } from 'zod';
import { Day, Done, Id, IdParam, Line, Named, Page, routes, sortedBy, Time, Version } from './common';
import { Task } from './tasks';

export const ProjectStageKind = z.enum(['open', 'done', 'stopped']);
export const ProjectStage = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  kind: ProjectStageKind,
  position: z.int(),
  active: z.boolean(),
  projects: z.int().describe('in it now'),
});
export type ProjectStage = z.infer<typeof ProjectStage>;
export const ProjectRow = z.object({
  id: Id,
  version: z.int(),
  title: z.string(),
  stage: Named.extend({ kind: ProjectStageKind }),
  stageSince: Time,
  company: Named.nullable(),
  owner: Named,
  startsOn: z.string().nullable(),
  dueOn: z.string().nullable(),
  isLate: z.boolean().describe('it is open, and was due before today'),
  progress: z.int().nullable().describe('per cent: as set by hand, else by its tasks'),
  tasks: z.int(),
  tasksDone: z.int(),
  closedAt: Time.nullable(),
});
export type ProjectRow = z.infer<typeof ProjectRow>;
export const ProjectDetail = ProjectRow.extend({
  progressByHand: z.boolean(),
  notes: z.string(),
  deal: Named.nullable(),
  people: z.array(Named.extend({ rowId: Id, jobTitle: z.string().nullable(), role: z.string() })),
  moves: z.array(Task).describe('its open tasks, those due first before; at most twenty'),
  createdAt: Time,
});
export type ProjectDetail = z.infer<typeof ProjectDetail>;

const Notes = z.string().trim().max(10_000);
const Given = {
  title: Line(200),
  stageId: Id.optional(),
  ownerId: Id.optional(),
  startsOn: Day.nullish(),
  dueOn: Day.nullish(),
  notes: Notes.optional(),
};
const Role = z.string().trim().max(80);

export const projectRoutes = routes({
  'GET /api/project-stages': {
    summary: 'The stages of projects',
    tag: 'projects',
    reply: z.object({ items: z.array(ProjectStage) }),
  },
  'POST /api/project-stages': {
    summary: 'Add a stage of projects',
    tag: 'projects',
    status: 201,
    right: 'settings.organisation',
    body: z.object({ name: Line(60), kind: ProjectStageKind }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/project-stages/:id': {
    summary: 'Rename, move or retire a stage of projects',
    tag: 'projects',
    params: IdParam,
    right: 'settings.organisation',
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      position: z.int().min(1).max(1000).optional(),
      active: z.boolean().optional(),
    }),
    reply: Done,
  },
  'GET /api/projects': {
    summary: 'Projects, those due first before',
    tag: 'projects',
    right: 'projects.see',
    query: Page.extend({
      ...sortedBy(['dueOn', 'title', 'createdAt'], 'dueOn'),
      state: z.enum(['open', 'done', 'stopped', 'all']).default('open'),
      stage: Id.optional(),
      owner: Id.optional(),
      companyId: Id.optional(),
      personId: Id.optional(),
      dealId: Id.optional(),
      q: z.string().max(200).optional().describe('beginnings of words of the title'),
    }),
    reply: z.object({ items: z.array(ProjectRow), next: z.string().nullable() }),
  },
  'POST /api/projects': {
    summary: 'Add a project',
    tag: 'projects',
    status: 201,
    body: z.object({ ...Given, companyId: Id.nullish(), people: z.array(Id).max(50).optional() }),
    reply: Done.extend({ id: Id }),
  },
  'GET /api/deals/:id/project': {
    summary: 'What a project would take over from a deal, and the projects that come of it already',
    tag: 'projects',
    params: IdParam,
    reply: z.object({
      title: z.string(),
      dueOn: z.string().nullable(),
      people: z.array(Named),
      tasks: z.array(Named).describe('those that are open'),
      files: z.int(),
      notes: z.string().describe('what was sold, and what is known'),
      projects: z.array(Named),
    }),
  },
  'POST /api/deals/:id/project': {
    summary: 'Make a project of a won deal, with what it takes over',
    tag: 'projects',
    status: 201,
    params: IdParam,
    body: z.object({
      ...Given,
      title: Line(200).optional(),
      take: z
        .object({
          people: z.boolean().default(true),
          tasks: z.boolean().default(true),
          files: z.boolean().default(true),
          notes: z.boolean().default(true),
        })
        .prefault({}),
    }),
    reply: Done.extend({ id: Id }),
  },
  'GET /api/projects/:id': {
    summary: 'One project with its people and open tasks',
    tag: 'projects',
    right: 'projects.see',
    params: IdParam,
    reply: ProjectDetail,
  },
  'PATCH /api/projects/:id': {
    summary: 'Change a project, or move it to another stage',
    tag: 'projects',
    params: IdParam,
    body: z.object({
      ...Given,
      version: Version,
      title: Line(200).optional(),
      companyId: Id.nullish(),
      progress: z.int().min(0).max(100).nullish().describe('null: by its tasks'),
      because: z.string().trim().max(500).optional().describe('why, for the ledger'),
    }),
    reply: Done.extend({ version: z.int() }),
  },
  'PUT /api/projects/:id/people/:personId': {
    summary: 'Put somebody on a project, or change what they do on it',
    tag: 'projects',
    params: z.object({ id: Id, personId: Id }),
    body: z.object({ role: Role.default('') }),
    reply: Done,
  },
  'DELETE /api/projects/:id/people/:personId': {
    summary: 'Take somebody off a project',
    tag: 'projects',
    params: z.object({ id: Id, personId: Id }),
    reply: Done,
  },
});
