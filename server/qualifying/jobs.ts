import { Op } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { Lead } from '../db/models/deals';
import { defineJob } from '../jobs/job';
import { SCORED, scoreLeads } from './score';
import { trainWinChance } from './train';

/** Records whose leads are to be scored again, by id. */
export interface Touched {
  leads: string[];
  people: string[];
  companies: string[];
}

/** Scores the leads of these records again, and tells whoever looks at them. */
export async function scoreTouched(context: Context, { leads, people, companies }: Touched): Promise<void> {
  const none = ['00000000-0000-0000-0000-000000000000'];
  await scoreLeads(
    context,
    `${SCORED} AND (id IN (:leads) OR person_id IN (:people) OR company_id IN (:companies)
      OR person_id IN (SELECT id FROM people WHERE company_id IN (:companies)))`,
    {
      leads: leads.length ? leads : none,
      people: people.length ? people : none,
      companies: companies.length ? companies : none,
    },
  );
  await context.sequelize.query(
    `SELECT pg_notify('emporikon_events', '{"touched":[{"table":"lead_scores","id":""}]}')`,
    { transaction: context.tx },
  );
}

/** Parked leads whose day has come are open again, as they were before; each says why. */
export async function bringBack(tools: Tools): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    const today = context.now().toISOString().slice(0, 10);
    const due = await Lead.findAll({
      where: { status: 'parked', parkedUntil: { [Op.lte]: today } },
      limit: 500,
      transaction: context.tx,
      lock: true,
    });
    for (const lead of due) {
      await context.write.update(lead, {
        status: lead.parkedFrom ?? 'working',
        statusSince: context.now(),
        parkedUntil: null,
        parkedFrom: null,
        updatedAt: context.now(),
      });
      await context.write.event('bring lead back', `${lead.title} came back from being parked`, null);
    }
  });
}

export const scoreAllJob = defineJob({
  name: 'scoreAllLeads',
  lane: 'short',
  input: z.unknown(),
  cron: '17 * * * *',
  run: (tools) => runInTransaction(tools, null, (context) => scoreLeads(context)),
});

export const trainJob = defineJob({
  name: 'trainWinChance',
  lane: 'long',
  input: z.unknown(),
  cron: '45 2 * * *',
  run: trainWinChance,
});

export const bringBackJob = defineJob({
  name: 'bringBackParked',
  lane: 'short',
  input: z.unknown(),
  cron: '*/5 * * * *',
  run: bringBack,
});
