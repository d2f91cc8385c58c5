import { Question } from '../db/models/deals';
import { requireActor } from '../commands/context';
import { early, type Handlers } from '../http/mount';
import { busy, notFound } from '../http/problems';
import { undo } from '../events/undo';

const READY_WITHIN_MS = 2000;

export const settingsHandlers: Handlers = {
  'GET /healthz': early(async () => ({ ok: true })),
  'GET /readyz': early(async ({ tools }) => {
    const answers = await Promise.race([
      tools.sequelize.query('SELECT 1').then(
        () => true,
        () => false,
      ),
      new Promise<false>((resolve) => setTimeout(resolve, READY_WITHIN_MS, false).unref()),
    ]);
    if (!answers) throw busy('The database does not answer.', 5);
    return { ok: true };
  }),
  'GET /api/questions': async ({ context }) => {
    const questions = await Question.findAll({ order: ['position'], transaction: context.tx });
    return {
      items: questions.map(({ id, version, label, help, position, active }) => ({
        id,
        version,
        label,
        help,
        position,
        active,
      })),
    };
  },
  'POST /api/questions': async ({ body, context }) => {
    const last = (await Question.max<number, Question>('position', { transaction: context.tx })) ?? 0;
    await context.write.insert(Question, {
      id: context.newId(),
      label: body.label,
      help: body.help,
      position: last + 1,
      active: true,
    });
    return {
      eventId: await context.write.event(
        'add question',
        `Added the question “${body.label}”`,
        requireActor(context).id,
      ),
    };
  },
  'PATCH /api/questions/:id': async ({ params, body: { version, ...patch }, context }) => {
    const question = await Question.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!question) throw notFound('There is no such question.');
    await context.write.update(question, patch, version);
    return {
      eventId: await context.write.event(
        'change question',
        `Changed the question “${question.label}”`,
        requireActor(context).id,
      ),
    };
  },
  'POST /api/events/:id/undo': async ({ params, context }) => ({
    undone: (await undo(context, params.id)).label,
  }),
};
