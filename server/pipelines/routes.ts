import { QueryTypes } from 'sequelize';
import { requireActor } from '../commands/context';
import { CloseReason, PipelineRow } from '../db/models/pipelines';
import { User } from '../db/models/users';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { addPipeline, addStage, changePipeline, changeStage, removeStage } from './commands';
import { loadStages, stageViews } from './stages';
import { ensureTeam } from '../visibility/teams';

export const pipelineHandlers: Handlers = {
  'GET /api/pipelines': async ({ context }) => {
    const counts = new Map(
      (
        await context.sequelize.query<{ id: string; open: number }>(
          "SELECT s.pipeline_id AS id, sum(d.deals)::int AS open FROM deal_sums d JOIN stages s ON s.id = d.stage_id WHERE s.kind = 'open' GROUP BY s.pipeline_id",
          { type: QueryTypes.SELECT, transaction: context.tx },
        )
      ).map((row) => [row.id, row.open]),
    );
    const rows = await PipelineRow.findAll({ order: ['position', 'name'], transaction: context.tx });
    return {
      items: rows.map(({ id, version, name, position, chances, active }) => ({
        id,
        version,
        name,
        position,
        chances: chances ?? 'given',
        active: active ?? true,
        open: counts.get(id) ?? 0,
      })),
    };
  },
  'POST /api/pipelines': async ({ body, context }) => addPipeline(context, body.name),
  'PATCH /api/pipelines/:id': async ({ params, body, context }) => ({
    eventId: await changePipeline(context, params.id, body),
  }),
  'GET /api/stages': async ({ query, context }) => ({
    items: await stageViews(context, await loadStages(context, query.pipeline)),
  }),
  'POST /api/stages': async ({ body, context }) => addStage(context, body),
  'PATCH /api/stages/:id': async ({ params, body, context }) => ({
    eventId: await changeStage(context, params.id, body),
  }),
  'DELETE /api/stages/:id': async ({ params, query, context }) => removeStage(context, params.id, query.to),
  'GET /api/close-reasons': async ({ context }) => {
    const rows = await CloseReason.findAll({
      order: [
        ['kind', 'DESC'],
        ['position', 'ASC'],
      ],
      transaction: context.tx,
    });
    return {
      items: rows.map(({ id, version, kind, words, active }) => ({
        id,
        version,
        kind,
        words,
        active: active ?? true,
      })),
    };
  },
  'POST /api/close-reasons': async ({ body, context }) => {
    const last =
      (await CloseReason.max<number, CloseReason>('position', {
        where: { kind: body.kind },
        transaction: context.tx,
      })) ?? 0;
    await context.write.insert(CloseReason, {
      id: context.newId(),
      ...body,
      position: last + 1,
      active: true,
    });
    return {
      eventId: await context.write.event(
        'add close reason',
        `Added the reason “${body.words}”`,
        requireActor(context).id,
      ),
    };
  },
  'PATCH /api/close-reasons/:id': async ({ params, body: { version, ...patch }, context }) => {
    const reason = await CloseReason.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!reason) throw notFound('There is no such reason.');
    await context.write.update(reason, patch, version);
    return {
      eventId: await context.write.event(
        'change close reason',
        `Changed the reason “${reason.words}”`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/figures/closings': async ({ query, context }) => {
    const rows = await context.sequelize.query<{ kind: 'won' | 'lost'; reason: string; count: number }>(
      `SELECT s.kind, coalesce(d.close_reason, '') AS reason, count(*)::int AS count
         FROM deals d JOIN stages s ON s.id = d.stage_id
        WHERE s.kind <> 'open' AND (:pipeline::uuid IS NULL OR s.pipeline_id = :pipeline)
        GROUP BY 1, 2 ORDER BY 1 DESC, 3 DESC`,
      {
        replacements: { pipeline: query.pipeline ?? null },
        type: QueryTypes.SELECT,
        transaction: context.tx,
      },
    );
    const count = (kind: 'won' | 'lost'): number =>
      rows.filter((row) => row.kind === kind).reduce((sum, row) => sum + row.count, 0);
    return { won: count('won'), lost: count('lost'), reasons: rows };
  },
  'PATCH /api/users/:id': async ({ params, body, context }) => {
    const user = await User.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!user) throw notFound('There is no such colleague.');
    await ensureTeam(context, body.team);
    await context.write.update(user, { team: body.team });
    return {
      eventId: await context.write.event(
        'change team',
        body.team ? `Put ${user.name} into the team ${body.team}` : `Took ${user.name} out of their team`,
        requireActor(context).id,
      ),
    };
  },
};
