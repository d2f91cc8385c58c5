import { readCalendar } from '../formats/icalendar';
import { isCurrentAnswer, planInvitations, readAnswer, type MeetingFacts } from './invitations';

const NOW = '2026-11-27T09:00:00Z';
const meeting: MeetingFacts = {
  title: 'Trial ride',
  startsAt: '2026-12-03T10:00:00Z',
  endsAt: '2026-12-03T11:00:00Z',
  place: 'Quay 4',
};
const later = { ...meeting, startsAt: '2026-12-04T10:00:00Z', endsAt: '2026-12-04T11:00:00Z' };
const told = (email: string, facts: MeetingFacts | null = meeting) => ({ email, told: facts });

describe('whom to mail', () => {
  it('first everybody, then nobody while nothing changes', () => {
    expect(planInvitations(meeting, ['a', 'b'], [], null, NOW)).toEqual({
      sequence: 0,
      invite: ['a', 'b'],
      callOff: [],
      isMoved: false,
    });
    expect(planInvitations(meeting, ['a', 'b'], [told('a'), told('b')], 0, NOW)).toBeNull();
  });

  it('everybody once it is moved, with the next number, and what they answered holds no more', () => {
    expect(planInvitations(later, ['a', 'b'], [told('a'), told('b')], 0, NOW)).toMatchObject({
      sequence: 1,
      invite: ['a', 'b'],
      isMoved: true,
    });
    expect(planInvitations({ ...meeting, place: 'Quay 5' }, ['a'], [told('a')], 3, NOW)).toMatchObject({
      sequence: 4,
      isMoved: false,
    });
  });

  it('somebody new alone, of the version that the others have', () => {
    expect(planInvitations(meeting, ['a', 'b'], [told('a')], 2, NOW)).toMatchObject({
      sequence: 2,
      invite: ['b'],
    });
  });

  it('who comes no more, and everybody when it is called off; not twice', () => {
    expect(planInvitations(meeting, ['a'], [told('a'), told('b')], 0, NOW)).toMatchObject({
      sequence: 1,
      invite: [],
      callOff: ['b'],
    });
    expect(planInvitations(null, [], [told('a'), told('b')], 0, NOW)).toMatchObject({ callOff: ['a', 'b'] });
    expect(planInvitations(null, [], [told('a', null)], 1, NOW)).toBeNull();
  });

  it('whoever was called off and comes after all is invited anew, with a higher number', () => {
    expect(planInvitations(meeting, ['a'], [told('a', null)], 1, NOW)).toMatchObject({
      sequence: 2,
      invite: ['a'],
    });
  });

  it('nobody about what is over', () => {
    const after = '2026-12-03T11:00:00Z';
    expect(planInvitations(null, [], [told('a')], 0, after)).toBeNull();
    expect(planInvitations(meeting, ['a', 'b'], [told('a')], 0, after)).toBeNull();
    expect(planInvitations({ ...meeting, title: 'Was fine' }, [], [told('a')], 0, after)).toBeNull();
  });
});

/** RFC 5546, 4.2.2, "Reply to a Group Event Request" (from memory). */
const REPLY = [
  'BEGIN:VCALENDAR',
  'PRODID:-//Example/ExampleCalendarClient//EN',
  'METHOD:REPLY',
  'VERSION:2.0',
  'BEGIN:VEVENT',
  'ATTENDEE;PARTSTAT=ACCEPTED:mailto:b@example.com',
  'ORGANIZER:mailto:a@example.com',
  'UID:calsrv.example.com-873970198738777@example.com',
  'SEQUENCE:0',
  'REQUEST-STATUS:2.0;Success',
  'DTSTAMP:19970612T190000Z',
  'END:VEVENT',
  'END:VCALENDAR',
].join('\r\n');
/** RFC 5546, 4.2.4, "Countering an Event Proposal" (from memory). */
const COUNTER = [
  'BEGIN:VCALENDAR',
  'PRODID:-//Example/ExampleCalendarClient//EN',
  'METHOD:COUNTER',
  'VERSION:2.0',
  'BEGIN:VEVENT',
  'ORGANIZER:mailto:a@example.com',
  'ATTENDEE;ROLE=CHAIR;PARTSTAT=ACCEPTED:mailto:a@example.com',
  'ATTENDEE;RSVP=TRUE;CUTYPE=INDIVIDUAL:mailto:b@example.com',
  'DTSTART:19970701T160000Z',
  'DTEND:19970701T190000Z',
  'DTSTAMP:19970612T190000Z',
  'SUMMARY:Discuss the Merits of the election results',
  'LOCATION:Green Conference Room',
  'COMMENT:This time works much better and I think the big conference room is too big',
  'UID:calsrv.example.com-873970198738777a@example.com',
  'SEQUENCE:0',
  'END:VEVENT',
  'END:VCALENDAR',
].join('\r\n');
const answerOf = (text: string, senders: string[]) =>
  readAnswer(readCalendar(text) ?? { method: '', events: [] }, senders);

describe('what comes back', () => {
  it('the reply of RFC 5546 is taken', () => {
    expect(answerOf(REPLY, ['b@example.com'])).toEqual({
      uid: 'calsrv.example.com-873970198738777@example.com',
      email: 'b@example.com',
      answer: 'accepted',
      at: '1997-06-12T19:00:00.000Z',
      sequence: 0,
      comment: '',
      proposes: null,
    });
  });

  it.each([
    ['DECLINED', 'declined'],
    ['TENTATIVE', 'tentative'],
    ['NEEDS-ACTION', 'waiting'],
    ['X-NONSENSE', 'waiting'],
  ])('%s is %s', (word, answer) => {
    expect(answerOf(REPLY.replace('ACCEPTED', word), ['b@example.com'])?.answer).toBe(answer);
  });

  it('the counter proposal of RFC 5546 is taken with the time it proposes', () => {
    expect(answerOf(COUNTER, ['b@example.com'])).toMatchObject({
      answer: 'tentative',
      proposes: { start: '1997-07-01T16:00:00.000Z', end: '1997-07-01T19:00:00.000Z' },
      comment: 'This time works much better and I think the big conference room is too big',
    });
  });

  it('nobody answers for somebody else, and a request is no answer', () => {
    expect(answerOf(REPLY, ['mallory@example.com'])).toBeNull();
    expect(answerOf(REPLY.replace('METHOD:REPLY', 'METHOD:REQUEST'), ['b@example.com'])).toBeNull();
    expect(answerOf('BEGIN:VCALENDAR\r\nMETHOD:REPLY\r\nEND:VCALENDAR', ['b@example.com'])).toBeNull();
  });

  it('an answer to the version before, or one that a newer overtook, is none (RFC 5546, 2.1.5)', () => {
    const at = '2026-11-27T10:00:00Z';
    const known = { sequence: 1, answeredAt: '2026-11-27T10:00:00Z' };
    expect(isCurrentAnswer({ sequence: 0, at }, known)).toBe(false);
    expect(isCurrentAnswer({ sequence: 1, at: '2026-11-27T09:59:59Z' }, known)).toBe(false);
    expect(isCurrentAnswer({ sequence: 1, at }, known)).toBe(true);
    expect(isCurrentAnswer({ sequence: 1, at: '' }, { sequence: 1, answeredAt: null })).toBe(true);
  });
});
