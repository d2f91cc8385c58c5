import { Id } from '@emporikon/contract/common';
import type { RoundLine } from '@emporikon/contract/round';
import { isWorkingDay } from '@emporikon/core/calendar/workingDays';
import { digestDay } from '@emporikon/core/ledger/noticeTimes';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { freeDaysFor } from '../calendar/free';
import { runInTransaction, type Tools } from '../commands/context';
import { User } from '../db/models/users';
import { defineEffect, queueEffect } from '../jobs/effect';
import { defineJob } from '../jobs/job';
import { NotSent } from '../outside/notSent';
import { actorOf } from '../session/identify';
import { listRound } from './list';

const MORNING_MS = 6 * 3_600_000;
const MOST_LINES = 20;

function lineOf(line: RoundLine, zone: string): string {
  const { kind, task, case: wanted, because, days, usualDays, stage } = line;
  const who = [line.person?.name, line.company?.name].filter(Boolean).join(', ');
  const at = task && DateTime.fromISO(task.dueAt, { zone: task.allDay ? task.zone : zone });
  const why = {
    turn: `our turn${because ? `: ${because}` : ''}`,
    task: at
      ? `${task?.state === 'overdue' ? 'overdue since' : 'due'} ${at.toFormat(task?.allDay ? 'ccc d LLL' : 'ccc d LLL, HH:mm')}`
      : 'due',
    new: 'nobody has spoken to them',
    case: `a case${wanted?.late ? ', the promise is broken' : ', waits for help'}`,
    stuck: `stuck: ${days ?? 0} days in ${stage ?? 'its stage'}, usual are ${usualDays ?? 0}`,
    quiet: `going quiet: ${days ?? 0} days without a word`,
  }[kind];
  return `${[task?.title ?? wanted?.name, who || (line.deal?.name ?? line.lead?.name)].filter(Boolean).join(' · ')}\n   ${why}`;
}

/** Mails somebody their round as it stands when it goes out. */
export const roundMail = defineEffect({
  name: 'mailRound',
  lane: 'mail',
  input: z.object({ userId: Id }),
  lastsMs: MORNING_MS,
  waits: { first: 15_000, longest: 1_800_000 },
  async send(tools, { userId }, { id }) {
    const { post } = tools.outside;
    if (!post) throw new NotSent('no mail server is set up', true);
    const user = await User.findOne({ where: { id: userId, active: true } });
    if (!user) return { lines: 0 };
    const { items, total } = await runInTransaction(tools, await actorOf(user), (context) =>
      listRound(context, { whose: 'mine' }),
    );
    if (!total) return { lines: 0 };
    const lines = items.slice(0, MOST_LINES).map((line, at) => `${at + 1}. ${lineOf(line, user.timeZone)}`);
    await post.send({
      id: `round.${id}`,
      to: user.email,
      subject: `Your round: ${total} today`,
      text: [
        ...lines,
        ...(total > lines.length ? [`and ${total - lines.length} more`] : []),
        `${tools.house.publicUrl}/round`,
      ].join('\n\n'),
      isAutomatic: true,
    });
    return { lines: total };
  },
  settle: (_context, _input, outcome) =>
    Promise.resolve(outcome.state === 'sent' ? 'Mailed a round' : 'A round could not be mailed'),
  prepareRepeat: () => Promise.resolve(),
});

/** Mails their round to whoever wants it, once on each of their working days. @returns how many */
export async function mailRounds(tools: Tools): Promise<number> {
  const users = await tools.sequelize.query<{ id: string }>(
    'SELECT id FROM users WHERE active AND round_mail',
    {
      type: QueryTypes.SELECT,
    },
  );
  let sent = 0;
  for (const { id } of users)
    await runInTransaction(tools, null, async (context) => {
      const { sequelize, tx, now } = context;
      const [user] = await sequelize.query<{ zone: string; at: string; last: string | null }>(
        'SELECT time_zone AS zone, digest_at AS at, round_mailed_on::text AS last FROM users WHERE id = $id FOR UPDATE',
        { bind: { id }, type: QueryTypes.SELECT, transaction: tx },
      );
      const day = user && digestDay(DateTime.fromJSDate(now()), user.zone, user.at, user.last);
      if (!day) return;
      await sequelize.query('UPDATE users SET round_mailed_on = $day WHERE id = $id', {
        bind: { id, day },
        transaction: tx,
      });
      if (!isWorkingDay(DateTime.fromISO(day), await freeDaysFor(context, id))) return;
      await queueEffect(context, roundMail, { userId: id }, { table: 'users', id }, null);
      sent++;
    });
  return sent;
}

export const roundMailJob = defineJob({
  name: 'mailRounds',
  lane: 'short',
  input: z.unknown(),
  cron: '* * * * *',
  run: async (tools) => void (await mailRounds(tools)),
});
