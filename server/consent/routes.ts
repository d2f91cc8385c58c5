import type { Handlers } from '../http/mount';
import { addArea, changeArea, listAreas, retireArea } from './areas';
import { mailLink, noteConsent, personConsent } from './person';
import {
  addPurpose,
  addTopic,
  changePurpose,
  changeTopic,
  listPurposes,
  retirePurpose,
  retireTopic,
} from './purposes';
import { listSubscribers } from './subscribers';
import { changeTrackingRules, trackingRules } from './trackingRules';

export const consentHandlers: Handlers = {
  'GET /api/purposes': async ({ context }) => listPurposes(context),
  'POST /api/purposes': async ({ body, context }) => addPurpose(context, body),
  'PATCH /api/purposes/:id': async ({ params, body, context }) => changePurpose(context, params, body),
  'DELETE /api/purposes/:id': async ({ params, context }) => retirePurpose(context, params),
  'POST /api/topics': async ({ body, context }) => addTopic(context, body),
  'PATCH /api/topics/:id': async ({ params, body, context }) => changeTopic(context, params, body),
  'DELETE /api/topics/:id': async ({ params, context }) => retireTopic(context, params),
  'GET /api/topics/:id/subscribers': async ({ params, query, context }) =>
    listSubscribers(context, params, query),
  'GET /api/tracking-rules': async ({ context }) => trackingRules(context),
  'PUT /api/tracking-rules': async ({ body, context }) => changeTrackingRules(context, body),
  'GET /api/areas': async ({ context }) => listAreas(context),
  'POST /api/areas': async ({ body, context }) => addArea(context, body),
  'PATCH /api/areas/:id': async ({ params, body, context }) => changeArea(context, params, body),
  'DELETE /api/areas/:id': async ({ params, context }) => retireArea(context, params),
  'GET /api/people/:id/consent': async ({ params, context }) => personConsent(context, params),
  'POST /api/people/:id/consent': async ({ params, body, context }) => noteConsent(context, params, body),
  'POST /api/people/:id/consent-mail': async ({ params, body, context }) => mailLink(context, params, body),
};
