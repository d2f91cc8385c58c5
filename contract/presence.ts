import { z } from 'zod';
import { Id, IdParam, routes } from './common';

const Present = z.object({
  id: Id.describe('of the colleague'),
  name: z.string(),
  field: z.string().nullable().describe('what they are editing, as it is captioned on the page'),
  isMe: z.boolean().describe('yourself, in another tab or browser'),
});
export type Present = z.infer<typeof Present>;

export const presenceRoutes = routes({
  'PUT /api/presence/:id': {
    summary: 'Say that you look at or edit a record, again within 25 seconds, and see who else does',
    tag: 'presence',
    params: IdParam,
    body: z.object({
      tab: Id.describe('which page of which browser it is; any id of your own'),
      field: z.string().trim().max(120).nullable().default(null),
      isHere: z.boolean().default(true).describe('false when you leave'),
    }),
    reply: z.object({ items: z.array(Present) }),
  },
});
