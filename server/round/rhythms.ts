import type { RhythmView } from '@emporikon/contract/round';
import { proposeRhythm, quietFrom, rhythmOf } from '@emporikon/core/ledger/rhythm';
import { QueryTypes } from 'sequelize';
import type { z } from 'zod';
import { requireActor, type Context } from '../commands/context';
import type { Company, Person } from '../db/models/people';
import { RhythmRow } from '../db/models/round';
import type { Handlers } from '../http/mount';
import { notFound } from '../http/problems';
import { addJob } from '../jobs/job';
import { keepRoundsJob, loadRules } from './keep';

const LOOKED_BACK = 40;

/** How often we mean to be in touch with somebody, when they are going quiet, and what the past shows. */
export async function rhythmOfPerson(
  context: Context,
  person: Person,
  company: Company | null,
): Promise<z.infer<typeof RhythmView>> {
  const rhythm = rhythmOf(
    {
      own: person.rhythmDays ?? null,
      company: company?.rhythmDays ?? null,
      tags: person.tags ?? [],
      standing: person.standing,
    },
    await loadRules(context.tx),
  );
  const spoken = await context.sequelize.query<{ at: Date }>(
    `SELECT k.at FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
      WHERE k.person_id = $id AND (n.kind IN ('call', 'meeting', 'visit') AND coalesce(n.outcome, 'spoke') = 'spoke' OR n.kind IN ('mail', 'form') AND n.side = 'theirs')
      ORDER BY k.at DESC, k.entry_id DESC LIMIT ${LOOKED_BACK}`,
    { bind: { id: person.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const times = spoken.map(({ at }) => at.toISOString());
  return {
    days: rhythm?.days ?? null,
    from: rhythm?.from ?? null,
    quietAt: quietFrom(rhythm, times[0] ?? null, person.createdAt.toISOString()),
    proposed: proposeRhythm(times),
  };
}

const again = (context: Context): Promise<void> => addJob(context, keepRoundsJob, {}, 'keepRounds');

export const rhythmHandlers: Handlers = {
  'GET /api/rhythms': async ({ context }) => {
    const rows = await RhythmRow.findAll({ order: ['kind', 'value'], transaction: context.tx });
    return { items: rows.map(({ id, kind, value, days }) => ({ id, kind, value, days })) };
  },
  'PUT /api/rhythms': async ({ body, context }) => {
    const { kind, value, days } = body;
    const known = await RhythmRow.findOne({ where: { kind, value }, transaction: context.tx, lock: true });
    const row = known
      ? await context.write.update(known, { days })
      : await context.write.insert(RhythmRow, { id: context.newId(), ...body });
    await again(context);
    const label = `Every ${days} days with ${kind === 'tag' ? `the tag ${value}` : value}`;
    return { id: row.id, eventId: await context.write.event('set rhythm', label, requireActor(context).id) };
  },
  'DELETE /api/rhythms/:id': async ({ params, context }) => {
    const row = await RhythmRow.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!row) throw notFound('There is no such rhythm.');
    await context.write.remove(row);
    await again(context);
    return {
      eventId: await context.write.event(
        'remove rhythm',
        `No rhythm with ${row.value}`,
        requireActor(context).id,
      ),
    };
  },
};
