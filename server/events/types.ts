import { EVENT_VERSION, eventData } from '@emporikon/contract/events';
import { z } from 'zod';
import type { Handlers } from '../http/mount';

const items = Object.entries(eventData).map(([type, data]) => ({
  type,
  version: EVENT_VERSION,
  data: z.toJSONSchema(data) as Record<string, unknown>,
}));

export const eventTypeHandlers: Handlers = {
  'GET /api/event-types': () => Promise.resolve({ items }),
};
