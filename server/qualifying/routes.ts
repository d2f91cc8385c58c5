import { normalizeEmail } from '@emporikon/core/people/emails';
import type { Context } from '../commands/context';
import { FitRuleRow, Signal } from '../db/models/qualifying';
import { ContactPoint, Person } from '../db/models/people';
import type { Handlers } from '../http/mount';
import { invalid } from '../http/problems';
import { addJob } from '../jobs/job';
import { trainJob } from './jobs';
import { changeWarmthRules, dropFigures, previewFit, setFitSheet, warmthRules, winModelView } from './rules';
import { listOwnerRules, ownerFigures, setOwnerRules } from './owners';
import { judgeLead } from './score';

async function personFor(
  context: Context,
  { personId, email }: { personId?: string; email?: string },
): Promise<string> {
  const found = personId
    ? (await Person.findByPk(personId, { transaction: context.tx }))?.id
    : (
        await ContactPoint.findOne({
          where: { kind: 'email', normalized: normalizeEmail(email ?? '') },
          transaction: context.tx,
        })
      )?.personId;
  if (!found)
    throw invalid('There is no such person.', {
      fields: { [personId ? 'personId' : 'email']: 'is nobody’s' },
    });
  return found;
}

export const qualifyingHandlers: Handlers = {
  'GET /api/leads/:id/judgement': async ({ params, context }) => judgeLead(context, params.id),
  'GET /api/fit-rules': async ({ context }) => {
    const rules = await FitRuleRow.findAll({ order: ['position'], transaction: context.tx });
    return {
      items: rules.map(({ id, version, field, condition, value, points }) => ({
        id,
        version,
        field,
        condition,
        value,
        points,
      })),
    };
  },
  'PUT /api/fit-rules': async ({ body, context }) => ({
    eventId: await setFitSheet(context, body.rules, body.seen),
  }),
  'POST /api/fit-rules/preview': async ({ body, context }) => previewFit(context, body.rules),
  'GET /api/warmth-rules': async ({ context }) => warmthRules(context),
  'PATCH /api/warmth-rules': async ({ body, context }) => ({
    eventId: await changeWarmthRules(context, body),
  }),
  'POST /api/signals': async ({ body, context }) => {
    const at = body.at ? new Date(body.at) : context.now();
    if (at.getTime() > context.now().getTime() + 60_000)
      throw invalid('That has not happened yet.', { fields: { at: 'is in the future' } });
    const signal = await context.write.insert(Signal, {
      id: context.newId(),
      personId: await personFor(context, body),
      kind: body.kind,
      at,
      words: body.words,
      createdAt: context.now(),
    });
    await context.write.event('note signal', `Noted: ${body.kind}`, context.actor?.id ?? null);
    return { id: signal.id };
  },
  'GET /api/win-model': async ({ context }) => winModelView(context),
  'POST /api/win-model/training': async ({ context }) => {
    await addJob(context, trainJob, {}, 'train');
    return { asked: true };
  },
  'GET /api/owner-rules': async ({ context }) => ({ items: await listOwnerRules(context) }),
  'PUT /api/owner-rules': async ({ body, context }) => ({
    eventId: await setOwnerRules(context, body.rules, body.seen),
  }),
  'GET /api/figures/owners': async ({ query, context }) => ownerFigures(context, query.since),
  'GET /api/figures/drops': async ({ query, context }) => dropFigures(context, query.since),
};
