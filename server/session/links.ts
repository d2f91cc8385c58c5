import { requireActor } from '../commands/context';
import { User } from '../db/models/users';
import { early, type Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';
import { endSessions } from './end';
import { mayAskForLink, sendLink, useLink } from './passwordLink';
import { originOf, recordSignIn } from './record';
import { hashPassword } from './secrets';

export const linkHandlers: Handlers = {
  'POST /api/session/password-link': early(async ({ body, request, tools, perform }) => {
    const origin = originOf(request);
    const user = await User.findOne({ where: { email: body.email, active: true } });
    const mayAsk = user !== null && (await mayAskForLink(tools, user.id, origin.address));
    return perform(async (context) => {
      await recordSignIn(
        context,
        'link asked for',
        { userId: user?.id ?? null, email: body.email, ...origin },
        context.tx,
      );
      if (user && mayAsk) await sendLink(context, user, 'reset');
      return { asked: true as const };
    });
  }),
  'PUT /api/session/password-link': early(async ({ body, request, perform }) => {
    const passwordHash = await hashPassword(body.password);
    return perform(async (context) => {
      const user = await useLink(context, body.token);
      await user.update({ passwordHash }, { transaction: context.tx });
      await endSessions(context, { userId: user.id });
      const who = { userId: user.id, email: user.email };
      await recordSignIn(context, 'password set', { ...who, ...originOf(request) }, context.tx);
      return { email: user.email };
    });
  }),
  'POST /api/admin/users/:id/invitation': async ({ params, context }) => {
    const user = await User.findByPk(params.id, { transaction: context.tx });
    if (!user) throw notFound('There is no such account.');
    if (!user.active) throw conflict('This account is switched off.');
    await sendLink(context, user, 'invitation');
    await context.write.event('invite user', `Invited ${user.name}`, requireActor(context).id);
    return { sent: true as const };
  },
};
