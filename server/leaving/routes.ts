import { notFound } from '../http/problems';
import type { Handlers } from '../http/mount';
import { pastSight } from '../commands/sight';
import { User } from '../db/models/users';
import { asHouseUser } from '../session/users';
import { countBelongings } from './belongings';
import { leave } from './leave';

export const leavingHandlers: Handlers = {
  'GET /api/admin/users/:id/belongings': async ({ params, context }) => {
    if (!(await User.findByPk(params.id, { transaction: context.tx })))
      throw notFound('There is no such account.');
    return pastSight(context, () => countBelongings(context, params.id));
  },
  'POST /api/admin/users/:id/leaving': async ({ params, body, context }) => {
    const { user, changes } = await leave(context, params.id, body);
    return { user: await asHouseUser(context, user), changes };
  },
};
