import { BULK_KINDS } from '@emporikon/core/bulk/types';
import { z } from 'zod';
import { Id, IdParam, routes, Version } from './common';
import { HouseUser } from './session';

const Belongings = z.object({
  people: z.int(),
  companies: z.int(),
  leads: z.int().describe('that are open or parked'),
  deals: z.int().describe('that are open'),
  tasks: z.int().describe('that are open, meetings ahead included'),
  projects: z.int().describe('that are open'),
  cases: z.int().describe('that are open'),
  forms: z.int().describe('whose answers come to them'),
  ownerRules: z.int().describe('by which they are given new leads'),
  views: z.int().describe('that they share with others'),
});
export type Belongings = z.infer<typeof Belongings>;

/** When a colleague leaves: what is theirs, and who has it next. */
export const leavingRoutes = routes({
  'GET /api/admin/users/:id/belongings': {
    summary: 'What a colleague looks after; counted whether or not you may see each record',
    tag: 'session',
    params: IdParam,
    roles: ['admin'],
    reply: Belongings,
  },
  'POST /api/admin/users/:id/leaving': {
    summary:
      'Hand over everything a colleague looks after and switch their account off; records change in the background, each with an undo',
    tag: 'session',
    params: IdParam,
    roles: ['admin'],
    body: z.object({
      version: Version,
      toId: Id.nullable().describe('who has it next; null only where nothing is left to hand over'),
    }),
    reply: z.object({
      user: HouseUser,
      changes: z
        .array(z.object({ id: Id, kind: z.enum(BULK_KINDS), total: z.int() }))
        .describe('the changes of many that were begun'),
    }),
  },
});
