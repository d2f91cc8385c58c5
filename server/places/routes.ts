import type { Query } from '@emporikon/core/query/types';
import type { Handlers } from '../http/mount';
import { clustersOf, nearestOf, townsOf } from './queries';

export const placeHandlers: Handlers = {
  'POST /api/queries/map': ({ body, context }) =>
    clustersOf(context, body.query as Query, body.box, body.across),
  'POST /api/queries/nearest': async ({ body, context }) => ({
    items: await nearestOf(context, body.query as Query, body),
  }),
  'GET /api/places/tiles': ({ context }) => Promise.resolve({ tiles: context.house.mapTiles }),
  'GET /api/places/towns': async ({ query, context }) => ({ items: await townsOf(context, query) }),
};
