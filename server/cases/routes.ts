import type { Handlers } from '../http/mount';
import { changeCase } from './change';
import { openCase } from './open';
import { changePromise, listPromises } from './promises';
import { caseDetail, listCases } from './queries';

export const caseHandlers: Handlers = {
  'GET /api/case-promises': async ({ context }) => ({
    items: (await listPromises(context)).map(({ id, version, urgency, answerHours, solveHours }) => ({
      id,
      version,
      urgency,
      answerHours,
      solveHours,
    })),
  }),
  'PATCH /api/case-promises/:id': async ({ params, body, context }) =>
    changePromise(context, params.id, body),
  'GET /api/cases': async ({ query, context }) => listCases(context, query),
  'POST /api/cases': async ({ body, context }) => openCase(context, body),
  'GET /api/cases/:id': async ({ params, context }) => caseDetail(context, params.id),
  'PATCH /api/cases/:id': async ({ params, body, context }) => changeCase(context, params.id, body),
};
