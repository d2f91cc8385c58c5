import type { Answer, CalendarEvent } from '../formats/icalendar';

/** What of a meeting those who are invited are told; times are ISO 8601, of whole days dates, the end not included. */
export interface MeetingFacts {
  title: string;
  startsAt: string;
  endsAt: string;
  place: string;
  allDay?: boolean | undefined;
}

/** Somebody who was invited by mail, with what they were told last; null once it was called off for them. */
export interface Invited {
  email: string;
  told: MeetingFacts | null;
}

export interface InvitationPlan {
  /** The number of the version that is sent (RFC 5546, 2.1.4: it rises with each change that matters). */
  sequence: number;
  /** Whom to invite, or tell of the change; addresses. */
  invite: string[];
  /** For whom it is called off; addresses. */
  callOff: string[];
  /** Another time: what somebody answered to the old one holds no more. */
  isMoved: boolean;
}

const isSame = (one: MeetingFacts, other: MeetingFacts): boolean =>
  (['title', 'startsAt', 'endsAt', 'place', 'allDay'] as const).every((key) => one[key] === other[key]);

/**
 * Whom to mail once a meeting changed. Nobody is mailed twice about the same, and nobody about what is over.
 * @param meeting as it is now; null where it does not take place, or nobody is to be invited by mail
 * @param attendees the addresses of whoever is to come
 * @param invited whoever was mailed before
 * @param sequence of the version that was sent last; null where none was
 * @param now ISO 8601
 * @returns null where there is nothing to send
 */
export function planInvitations(
  meeting: MeetingFacts | null,
  attendees: readonly string[],
  invited: readonly Invited[],
  sequence: number | null,
  now: string,
): InvitationPlan | null {
  const isOver = (facts: MeetingFacts): boolean => Date.parse(facts.endsAt) <= Date.parse(now);
  const known = invited.flatMap(({ email, told }) => (told ? [{ email, told }] : []));
  const coming = new Set(meeting && !isOver(meeting) ? attendees : []);
  const callOff = known.filter(
    ({ email, told }) => !isOver(told) && (!meeting || (!isOver(meeting) && !coming.has(email))),
  );
  const invite = [...coming].filter((email) => {
    const before = known.find((one) => one.email === email);
    return meeting !== null && (!before || !isSame(before.told, meeting));
  });
  if (!invite.length && !callOff.length) return null;
  const changed = known.filter(({ email }) => invite.includes(email));
  const wasSent = sequence !== null;
  // Somebody new hears of the version that the others have.
  const isNewVersion = changed.length > 0 || callOff.length > 0 || known.length === 0;
  return {
    sequence: wasSent ? sequence + (isNewVersion ? 1 : 0) : 0,
    invite,
    callOff: callOff.map(({ email }) => email),
    isMoved: changed.some(
      ({ told }) => told.startsAt !== meeting?.startsAt || told.endsAt !== meeting.endsAt,
    ),
  };
}

/** An answer to an invitation, as it came by mail. */
export interface InvitationAnswer {
  uid: string;
  email: string;
  answer: Answer;
  /** When they said so; ISO 8601. */
  at: string;
  sequence: number;
  comment: string;
  /** Another time that they propose (RFC 5546, 3.2.7). */
  proposes: { start: string; end: string } | null;
}

/**
 * The answer that a calendar file is (RFC 5546, 3.2.3 and 3.2.7), of whoever sent it: who answers for somebody else is not
 * believed, because anybody could.
 * @param senders the addresses that the mail came from, lower case
 */
export function readAnswer(
  file: { method: string; events: readonly CalendarEvent[] },
  senders: readonly string[],
): InvitationAnswer | null {
  const [event] = file.events;
  if (!event || (file.method !== 'REPLY' && file.method !== 'COUNTER')) return null;
  const attendee = event.attendees.find(({ email }) => senders.includes(email));
  if (!attendee) return null;
  const proposes =
    file.method === 'COUNTER' && event.start && !event.allDay ? { start: event.start, end: event.end } : null;
  return {
    uid: event.uid,
    email: attendee.email,
    answer: file.method === 'COUNTER' ? 'tentative' : attendee.answer,
    at: event.stamp,
    sequence: event.sequence,
    comment: event.comment.trim(),
    proposes,
  };
}

/**
 * Whether an answer still holds: not one to a version before the last change, and not one that a newer one overtook on its way
 * (RFC 5546, 2.1.5: by the sequence number, and then by when it was said).
 * @param known the version that the attendee was sent last, and when they said what is known of them; ISO 8601
 */
export function isCurrentAnswer(
  answer: Pick<InvitationAnswer, 'sequence' | 'at'>,
  known: { sequence: number; answeredAt: string | null },
): boolean {
  if (answer.sequence < known.sequence) return false;
  return !known.answeredAt || !answer.at || Date.parse(answer.at) >= Date.parse(known.answeredAt);
}
