import { RIGHTS } from '@emporikon/core/rights/rights';
import { z } from 'zod';
import { Done, Id, IdParam, Line, routes, Version } from './common';

export const Right = z
  .enum(RIGHTS as unknown as readonly [(typeof RIGHTS)[number], ...(typeof RIGHTS)[number][]])
  .describe('an area and what is done there: people.see, deals.export, settings.scoring');
const BasedOn = z
  .enum(['rep', 'manager'])
  .describe('a manager also sees what only an owner and their managers see');
const Rights = z
  .array(Right)
  .max(RIGHTS.length)
  .describe('what another one needs is added: whoever may change deals sees them');

export const OwnRole = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  basedOn: BasedOn,
  rights: z.array(Right),
  users: z.array(z.string()).describe('who has it, by name'),
});
export type OwnRole = z.infer<typeof OwnRole>;

export const roleRoutes = routes({
  'GET /api/roles': {
    summary: 'Roles of your own, besides rep, manager and admin',
    tag: 'roles',
    roles: ['admin'],
    reply: z.object({ items: z.array(OwnRole) }),
  },
  'POST /api/roles': {
    summary: 'Add a role',
    tag: 'roles',
    status: 201,
    roles: ['admin'],
    body: z.object({ name: Line(60), basedOn: BasedOn.default('rep'), rights: Rights }),
    reply: Done.extend({ id: Id }),
  },
  'PATCH /api/roles/:id': {
    summary: 'Rename a role or change what it may do; it counts from the next request of those who have it',
    tag: 'roles',
    roles: ['admin'],
    params: IdParam,
    body: z.object({
      version: Version,
      name: Line(60).optional(),
      basedOn: BasedOn.optional(),
      rights: Rights.optional(),
    }),
    reply: Done,
  },
  'DELETE /api/roles/:id': {
    summary: 'Remove a role that nobody has',
    tag: 'roles',
    roles: ['admin'],
    params: IdParam,
    reply: Done,
  },
});
