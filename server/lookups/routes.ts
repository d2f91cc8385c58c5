import { requireActor } from '../commands/context';
import { requireRight } from '../commands/rights';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { gapsOf } from './planning/gaps';
import { listLookUps, listSources, lookUpDetail, rulesView } from './queries';
import { loadRules, sourceRows } from './planning/rules';
import { loadRun, planSelection, runView, startRun, stopRun } from './runs';
import { acceptSuggestion, refuseSuggestion } from './applying/suggestions';

export const lookUpHandlers: Handlers = {
  'GET /api/look-ups': async ({ query, context }) => listLookUps(context, query),
  'GET /api/look-ups/:id': async ({ params, context }) => lookUpDetail(context, params.id),
  'POST /api/look-ups/plan': async ({ body, context }) => planSelection(context, body),
  'POST /api/look-ups': async ({ body, context }) => {
    if (body.people.length || body.leads.length) requireRight(context, 'people.change');
    if (body.companies.length) requireRight(context, 'companies.change');
    return startRun(context, body);
  },
  'GET /api/look-ups/runs/:id': async ({ params, context }) =>
    runView(context, await loadRun(context, params.id)),
  'POST /api/look-ups/runs/:id/stop': async ({ params, context }) => stopRun(context, params.id),
  'GET /api/look-ups/sources': async ({ context }) => ({ items: await listSources(context) }),
  'PATCH /api/look-ups/sources/:key': async ({ params, body, context }) => {
    const source = context.outside.lookUps.find((one) => one.key === params.key);
    const row = (await sourceRows(context)).find((row) => row.key === params.key);
    if (!source || !row) throw notFound('There is no such source.');
    await context.write.update(row, body);
    return {
      eventId: await context.write.event(
        'change source',
        `Turned ${source.label} ${body.active ? 'on' : 'off'}`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/look-ups/rules': async ({ context }) => rulesView(context),
  'PATCH /api/look-ups/rules': async ({ body: { version, ...patch }, context }) => {
    await context.write.update(await loadRules(context), patch, version);
    return {
      eventId: await context.write.event(
        'change look-up rules',
        'Changed the rules for look-ups',
        requireActor(context).id,
      ),
    };
  },
  'GET /api/gaps': async ({ query, context }) =>
    gapsOf(context, { personId: query.personId ?? null, companyId: query.companyId ?? null }),
  'POST /api/suggestions/:id/acceptance': async ({ params, context }) => ({
    eventId: await acceptSuggestion(context, params.id),
  }),
  'POST /api/suggestions/:id/refusal': async ({ params, context }) => ({
    eventId: await refuseSuggestion(context, params.id),
  }),
};
