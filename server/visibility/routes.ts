import type { Handlers } from '../http/mount';
import { listDefaults, replaceDefaults } from './defaults';
import { listHiddenMatches, settleHiddenMatch } from './hidden';
import { chooseSight, sightOf } from './sight';
import { addTeam, changeTeam, listTeams } from './teams';

export const visibilityHandlers: Handlers = {
  'GET /api/visibility/:kind/:id': async ({ params, context }) => sightOf(context, params.kind, params.id),
  'PUT /api/visibility/:kind/:id': async ({ params, body, context }) => ({
    eventId: await chooseSight(context, params.kind, params.id, body),
  }),
  'GET /api/visibility-defaults': async ({ context }) => ({ items: await listDefaults(context) }),
  'PUT /api/visibility-defaults': async ({ body, context }) => ({
    eventId: await replaceDefaults(context, body.items),
  }),
  'GET /api/teams': async ({ context }) => ({ items: await listTeams(context) }),
  'POST /api/teams': async ({ body, context }) => addTeam(context, body),
  'PATCH /api/teams/:id': async ({ params, body, context }) => ({
    eventId: await changeTeam(context, params.id, body),
  }),
  'GET /api/hidden-matches': async ({ context }) => ({ items: await listHiddenMatches(context) }),
  'POST /api/hidden-matches/:id/settle': async ({ params, context }) => ({
    eventId: await settleHiddenMatch(context, params.id),
  }),
};
