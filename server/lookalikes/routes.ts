import { addJob } from '../jobs/job';
import { lookAlikesJob } from './run';
import { early, type Handlers } from '../http/mount';
import { compareRecords } from './compare';
import { forgetApart, judgeDifferent, judgeRelated, tellApart } from './judge';
import { mergeMany, previewMany } from './many';
import { mergeRecords } from './merge';
import { listLookAlikes } from './queries';
import { mergesInto } from './merged';
import { unmerge, unmergePlan } from './unmerge';

export const lookAlikeHandlers: Handlers = {
  'GET /api/look-alikes': async ({ query, context }) => listLookAlikes(context, query),
  'POST /api/look-alikes/run': async ({ body, context }) => {
    await addJob(context, lookAlikesJob, { kind: body.kind }, `look-alikes:${body.kind}`);
    return { started: true };
  },
  'POST /api/look-alikes/:id/different': async ({ params, body, context }) => ({
    eventId: await judgeDifferent(context, params.id, body.ids, body.as),
  }),
  'POST /api/told-apart': async ({ body, context }) => ({
    eventId: await tellApart(context, body.kind, [...new Set(body.ids)], body.as),
  }),
  'DELETE /api/told-apart/:id': async ({ params, context }) => ({
    eventId: await forgetApart(context, params.id),
  }),
  'POST /api/look-alikes/:id/related': async ({ params, body, context }) => ({
    eventId: await judgeRelated(context, params.id, body.parentId),
  }),
  'POST /api/look-alikes/preview': async ({ body, context }) => previewMany(context, body.ids),
  'POST /api/look-alikes/merge': early(async ({ body, tools, actor, perform }) => {
    const done = await mergeMany(tools, actor, body.ids);
    return perform(async () => done);
  }),
  'POST /api/merges/compare': async ({ body, context }) =>
    compareRecords(context, body.kind, [...new Set(body.ids)]),
  'POST /api/merges': async ({ body, context }) => mergeRecords(context, body),
  'GET /api/merges': async ({ query, context }) => ({ items: await mergesInto(context, query.recordId) }),
  'GET /api/merges/:id/unmerge': async ({ params, context }) => unmergePlan(context, params.id),
  'POST /api/merges/:id/unmerge': async ({ params, body, context }) =>
    unmerge(context, params.id, body.choices),
};
