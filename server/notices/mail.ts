import { Id } from '@emporikon/contract/common';
import { digestDay, mailableAt } from '@emporikon/core/ledger/noticeTimes';
import { DateTime } from 'luxon';
import { QueryTypes, type Transaction } from 'sequelize';
import { z } from 'zod';
import { runInTransaction } from '../commands/context';
import type { Tools } from '../commands/types';
import { defineEffect, queueEffect } from '../jobs/effect';
import { defineJob } from '../jobs/job';
import { NotSent } from '../outside/notSent';
import { mailOf, type MailedNotice } from './mailText';

const DAY_MS = 86_400_000;
const Mailed = z.object({ userId: Id, noticeIds: z.array(Id).min(1) });

interface Ready {
  to: string;
  zone: string;
  notices: MailedNotice[];
}

/** What is mailed to whom, as it is now: what was taken back meanwhile is no longer there. */
const loadReady = (tools: Tools, { userId, noticeIds }: z.infer<typeof Mailed>): Promise<Ready | null> =>
  runInTransaction(tools, null, async ({ sequelize, tx }) => {
    const [user] = await sequelize.query<{ email: string; zone: string }>(
      'SELECT email, time_zone AS zone FROM users WHERE id = $userId AND active',
      { bind: { userId }, type: QueryTypes.SELECT, transaction: tx },
    );
    const notices = await sequelize.query<MailedNotice>(
      `SELECT n.id, n.kind, n.title, n.detail, a.name AS actor, n.task_id AS "taskId", n.person_id AS "personId", n.company_id AS "companyId",
              n.lead_id AS "leadId", n.deal_id AS "dealId", t.notes, t.due_at AS "dueAt", t.all_day AS "allDay", t.zone,
              concat_ws(', ', p.full_name, c.name, l.title, d.title) AS about
         FROM notices n LEFT JOIN users a ON a.id = n.actor_id LEFT JOIN tasks t ON t.id = n.task_id
         LEFT JOIN people p ON p.id = n.person_id LEFT JOIN companies c ON c.id = n.company_id LEFT JOIN leads l ON l.id = n.lead_id LEFT JOIN deals d ON d.id = n.deal_id
        WHERE n.id = ANY ($ids::uuid[]) ORDER BY n.at, n.id`,
      { bind: { ids: noticeIds }, type: QueryTypes.SELECT, transaction: tx },
    );
    return user && notices.length ? { to: user.email, zone: user.zone, notices } : null;
  });

/** Mails one notice, or those of a day. */
export const noticeMail = defineEffect({
  name: 'mailNotices',
  lane: 'mail',
  input: Mailed,
  lastsMs: DAY_MS,
  waits: { first: 15_000, longest: 3_600_000 },
  async send(tools, input, { id }) {
    const { post } = tools.outside;
    if (!post) throw new NotSent('no mail server is set up', true);
    const ready = await loadReady(tools, input);
    if (!ready) return { mailed: 0 };
    const { to, zone, notices } = ready;
    const { subject, text } = mailOf(notices, { publicUrl: tools.house.publicUrl, zone });
    const taskId = notices.length === 1 ? notices[0]?.taskId : null;
    await post.send({
      id: `${taskId ? `task.${taskId}` : 'notices'}.${id}`,
      ...{ to, subject, text },
      isAutomatic: true,
    });
    return { mailed: notices.length };
  },
  settle: (_context, _input, outcome) =>
    Promise.resolve(outcome.state === 'sent' ? 'Mailed notices' : 'Notices could not be mailed'),
  prepareRepeat: () => Promise.resolve(),
});

interface Choosing {
  id: string;
  kind: string;
  userId: string;
}

/** How a notice of each kind reaches whoever chose nothing. */
export const DEFAULT_CHOICES: Readonly<
  Record<string, { mail: 'at once' | 'digest' | 'off'; browser: boolean }>
> = {
  mention: { mail: 'at once', browser: true },
  given: { mail: 'at once', browser: true },
  declined: { mail: 'at once', browser: true },
  answered: { mail: 'at once', browser: true },
  'asked after': { mail: 'at once', browser: true },
  'taken back': { mail: 'at once', browser: false },
  done: { mail: 'at once', browser: false },
  moved: { mail: 'at once', browser: false },
  'handed over': { mail: 'at once', browser: true },
  'passed on': { mail: 'digest', browser: false },
  owner: { mail: 'digest', browser: false },
  reminder: { mail: 'off', browser: true },
  // The invitation itself comes by mail.
  invited: { mail: 'off', browser: true },
  coming: { mail: 'digest', browser: true },
  letter: { mail: 'digest', browser: true },
};

/** Sends new notices on their way by mail, as whoever they are for chose: at once, with the day's, or not. */
export async function mailNotices(
  tools: Pick<Tools, 'sequelize' | 'newId' | 'now' | 'outside'>,
  tx: Transaction,
  told: readonly Choosing[],
): Promise<void> {
  if (!told.length || !tools.outside.post) return;
  const users = await tools.sequelize.query<{
    id: string;
    zone: string;
    from: string | null;
    until: string | null;
    mails: Record<string, 'at once' | 'digest' | 'off'> | null;
  }>(
    `SELECT u.id, u.time_zone AS zone, u.quiet_from AS "from", u.quiet_until AS until,
            (SELECT json_object_agg(c.kind, c.mail) FROM notice_choices c WHERE c.user_id = u.id) AS mails
       FROM users u WHERE u.id = ANY ($ids::uuid[])`,
    {
      bind: { ids: [...new Set(told.map(({ userId }) => userId))] },
      type: QueryTypes.SELECT,
      transaction: tx,
    },
  );
  const now = tools.now();
  const later: string[] = [];
  for (const { id, kind, userId } of told) {
    const user = users.find((one) => one.id === userId);
    const how = user?.mails?.[kind] ?? DEFAULT_CHOICES[kind]?.mail ?? 'off';
    if (!user || how === 'off') continue;
    if (how === 'digest') {
      later.push(id);
      continue;
    }
    const quiet = user.from && user.until ? { from: user.from, until: user.until } : null;
    const at = mailableAt(DateTime.fromJSDate(now), user.zone, quiet).toJSDate();
    await queueEffect(
      { ...tools, tx },
      noticeMail,
      { userId, noticeIds: [id] },
      { table: 'notices', id },
      at > now ? at : null,
    );
  }
  if (later.length)
    await tools.sequelize.query('UPDATE notices SET for_digest = true WHERE id = ANY ($ids::uuid[])', {
      bind: { ids: later },
      transaction: tx,
    });
}

const MOST_IN_DIGEST = 200;

/** Sends the mail of the day to whoever's hour it is, once: what is mailed and the day it was are one transaction. */
export async function sendDigests(tools: Tools): Promise<number> {
  const users = await waiting(tools);
  let sent = 0;
  for (const { id } of users)
    await runInTransaction(tools, null, async ({ tx, sequelize, now, newId }) => {
      const [user] = await sequelize.query<{ zone: string; at: string; last: string | null }>(
        'SELECT time_zone AS zone, digest_at AS at, digest_on::text AS last FROM users WHERE id = $id FOR UPDATE',
        { bind: { id }, type: QueryTypes.SELECT, transaction: tx },
      );
      const day = user && digestDay(DateTime.fromJSDate(now()), user.zone, user.at, user.last);
      if (!day) return;
      const rows = await sequelize.query<{ id: string }>(
        `WITH due AS (SELECT id FROM notices WHERE user_id = $id AND for_digest ORDER BY at LIMIT ${MOST_IN_DIGEST})
         UPDATE notices n SET for_digest = false FROM due WHERE n.id = due.id RETURNING n.id`,
        { bind: { id }, type: QueryTypes.SELECT, transaction: tx },
      );
      await sequelize.query('UPDATE users SET digest_on = $day WHERE id = $id', {
        bind: { id, day },
        transaction: tx,
      });
      if (!rows.length) return;
      const noticeIds = rows.map((row) => row.id);
      await queueEffect(
        { ...tools, tx, newId },
        noticeMail,
        { userId: id, noticeIds },
        { table: 'users', id },
        null,
      );
      sent++;
    });
  return sent;
}

const waiting = (tools: Tools): Promise<{ id: string }[]> =>
  runInTransaction(tools, null, ({ sequelize, tx }) =>
    sequelize.query<{ id: string }>(
      'SELECT u.id FROM users u WHERE u.active AND EXISTS (SELECT 1 FROM notices n WHERE n.user_id = u.id AND n.for_digest)',
      { type: QueryTypes.SELECT, transaction: tx },
    ),
  );

export const digestJob = defineJob({
  name: 'mailDigests',
  lane: 'short',
  input: z.unknown(),
  cron: '* * * * *',
  run: async (tools) => void (await sendDigests(tools)),
});
