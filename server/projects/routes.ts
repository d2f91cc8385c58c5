import type { Handlers } from '../http/mount';
import { changeProject, putPerson, takeOff } from './change';
import { projectFromDeal, projectProposal } from './fromDeal';
import { addProject } from './make';
import { listProjects, projectDetail } from './queries';
import { addStage, changeStage, listStages } from './stages';

export const projectHandlers: Handlers = {
  'GET /api/project-stages': async ({ context }) => ({ items: await listStages(context) }),
  'POST /api/project-stages': async ({ body, context }) => addStage(context, body),
  'PATCH /api/project-stages/:id': async ({ params, body, context }) => changeStage(context, params.id, body),
  'GET /api/projects': async ({ query, context }) => listProjects(context, query),
  'POST /api/projects': async ({ body, context }) => addProject(context, body),
  'GET /api/deals/:id/project': async ({ params, context }) => projectProposal(context, params.id),
  'POST /api/deals/:id/project': async ({ params, body, context }) =>
    projectFromDeal(context, params.id, body),
  'GET /api/projects/:id': async ({ params, context }) => projectDetail(context, params.id),
  'PATCH /api/projects/:id': async ({ params, body, context }) => changeProject(context, params.id, body),
  'PUT /api/projects/:id/people/:personId': async ({ params, body, context }) =>
    putPerson(context, params.id, { personId: params.personId, role: body.role }),
  'DELETE /api/projects/:id/people/:personId': async ({ params, context }) =>
    takeOff(context, params.id, params.personId),
};
