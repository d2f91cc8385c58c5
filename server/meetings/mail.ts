import { Id } from '@emporikon/contract/common';
import { writeCalendar } from '@emporikon/core/formats/icalendar';
import { DateTime } from 'luxon';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Tools } from '../commands/context';
import { Invitation } from '../db/models/meetings';
import { defineEffect } from '../jobs/effect';
import { NotSent } from '../outside/notSent';
import { uidOf } from './facts';
import { peopleOf } from './people';

const DAY_MS = 86_400_000;
const Facts = z.object({
  ...{ title: z.string(), startsAt: z.string(), endsAt: z.string(), place: z.string() },
  allDay: z.boolean().optional(),
});
const Mailed = z.object({
  taskId: Id,
  email: z.string(),
  name: z.string(),
  organizerId: Id,
  sequence: z.int(),
  facts: Facts,
  isOff: z.boolean(),
});
type Mailed = z.infer<typeof Mailed>;

interface Ready {
  organizer: { name: string; email: string; zone: string };
  zone: string | null;
  people: { name: string; email: string; answer: 'waiting' | 'accepted' | 'tentative' | 'declined' }[];
}

/** What the mail says beside the payload, as it is now; null where something newer was said meanwhile. */
const loadReady = (
  tools: Tools,
  { taskId, email, organizerId, sequence, isOff }: Mailed,
): Promise<Ready | null> =>
  runInTransaction(tools, null, async ({ sequelize, tx }) => {
    const row = await Invitation.findOne({ where: { taskId, email }, transaction: tx });
    if (!row || row.sequence !== sequence || (row.told === null) !== isOff) return null;
    const [organizer] = await sequelize.query<{ name: string; email: string; zone: string }>(
      'SELECT name, email, time_zone AS zone FROM users WHERE id = $organizerId',
      { bind: { organizerId }, type: QueryTypes.SELECT, transaction: tx },
    );
    const [theirs] = await sequelize.query<{ zone: string | null }>(
      `SELECT coalesce(u.time_zone, p.time_zone) AS zone FROM task_people t LEFT JOIN people p ON p.id = t.person_id LEFT JOIN users u ON u.id = t.user_id
        WHERE t.task_id = $taskId AND t.email = $email`,
      { bind: { taskId, email }, type: QueryTypes.SELECT, transaction: tx },
    );
    return organizer
      ? { organizer, zone: theirs?.zone ?? null, people: await peopleOf({ tx }, taskId) }
      : null;
  });

/** "Thu 3 Dec 2026, 10:00–11:00 (Lisbon time)"; of whole days "Thu 3 Dec 2026 – Fri 4 Dec 2026" */
function timeWords({ startsAt, endsAt, allDay }: Mailed['facts'], zone: string): string {
  if (allDay) {
    const days = [DateTime.fromISO(startsAt), DateTime.fromISO(endsAt).minus({ days: 1 })];
    return [...new Set(days.map((day) => day.toFormat('ccc d LLL yyyy')))].join(' – ');
  }
  const [start, end] = [startsAt, endsAt].map((iso) => DateTime.fromISO(iso, { zone }));
  if (!start || !end) return '';
  const until = end.hasSame(start, 'day') ? end.toFormat('HH:mm') : end.toFormat('ccc d LLL, HH:mm');
  const place = (zone.split('/').at(-1) ?? zone).replaceAll('_', ' ');
  return `${start.toFormat('ccc d LLL yyyy, HH:mm')}–${until} (${place} time)`;
}

/** The mail in words, for whoever's program knows no calendars. */
function wordsOf(
  { facts, isOff, sequence }: Mailed,
  { organizer, zone, people }: Ready,
): { subject: string; text: string } {
  const when = timeWords(facts, organizer.zone);
  const theirs = zone && zone !== organizer.zone && !facts.allDay ? timeWords(facts, zone) : '';
  const what = isOff ? 'Cancelled' : sequence ? 'Changed' : 'Invitation';
  const first = isOff
    ? `${organizer.name} cancelled this meeting.`
    : sequence
      ? `${organizer.name} changed this meeting. Please answer again from your calendar.`
      : `${organizer.name} invites you to a meeting. Please answer from your calendar, or reply to this mail.`;
  const lines = [
    first,
    '',
    facts.title,
    when,
    ...(theirs ? [theirs] : []),
    ...(facts.place ? [`Where: ${facts.place}`] : []),
    ...(isOff
      ? []
      : [`With: ${[organizer.name, ...people.map(({ name, email }) => name || email)].join(', ')}`]),
  ];
  return { subject: `${what}: ${facts.title}, ${when}`, text: `${lines.join('\n')}\n` };
}

/** Mails somebody an invitation, a change of it, or that it is off (RFC 5546 over RFC 6047). */
export const invitationMail = defineEffect({
  name: 'mailInvitation',
  lane: 'mail',
  input: Mailed,
  lastsMs: 3 * DAY_MS,
  waits: { first: 15_000, longest: 3_600_000 },
  async send(tools, input, { id }) {
    const { post } = tools.outside;
    if (!post) throw new NotSent('no mail server is set up', true);
    const ready = await loadReady(tools, input);
    if (!ready) return { isSent: false };
    const { organizer, people } = ready;
    const { taskId, email, name, sequence, facts, isOff } = input;
    const method = isOff ? 'CANCEL' : 'REQUEST';
    const invited = isOff ? [{ name, email, answer: 'waiting' as const }] : people.filter((one) => one.email);
    const calendar = writeCalendar(
      [
        {
          uid: uidOf(taskId, tools.house.publicUrl),
          ...{ sequence, stamp: tools.now().toISOString() },
          ...{ title: facts.title, start: facts.startsAt, end: facts.endsAt, place: facts.place },
          ...{ allDay: facts.allDay ?? false, notes: '', url: '', comment: '', isCancelled: isOff },
          organizer: { name: organizer.name, email: organizer.email },
          attendees: invited,
        },
      ],
      method,
    );
    await post.send({
      id: `meeting.${taskId}.${id}`,
      ...{ to: email, replyTo: organizer.email },
      ...wordsOf(input, ready),
      calendar: { method, content: calendar },
    });
    return { isSent: true };
  },
  async settle(context, { taskId, email, sequence }, outcome) {
    if (outcome.state === 'sent' && outcome.result.isSent)
      await Invitation.update(
        { sentAt: context.now() },
        { where: { taskId, email, sequence }, transaction: context.tx },
      );
    return outcome.state === 'sent' ? `Invited ${email}` : `${email} could not be invited`;
  },
  prepareRepeat: () => Promise.resolve(),
});
