import { readCalendar, writeCalendar, type CalendarEvent } from '@emporikon/core/formats/icalendar';
import { createTransport, type SendMailOptions } from 'nodemailer';
import { openMailIntake, type MailIntake } from '../outside/mail';
import { delegating } from './delegating';
import type { Client, House } from './harness';

export const ANA = 'ana@padariasol.example';
const NOW = new Date('2026-11-25T09:00:00Z');

/** A mail with a calendar file, as it was handed to the mail server. */
interface Sent {
  to: string;
  subject: string;
  text: string;
  replyTo: string;
  calendar: { method: string; content: string };
}
type AnswerOptions = Partial<CalendarEvent> & {
  from?: string;
  method?: 'REPLY' | 'COUNTER';
  text?: string;
  messageId?: string;
};

/** Meetings that Pell holds with Ana on 3 December 2026, what is mailed about them, and how she answers. */
export function inviting(house: House, pell: Client) {
  const state = { ana: '' };
  let intake: MailIntake;
  beforeAll(async () => {
    intake = await openMailIntake(house.tools, '127.0.0.1', 0, () => undefined);
  });
  afterAll(() => intake.stop());
  beforeEach(async () => {
    house.tools.now = () => NOW;
    await house.sequelize.query('DELETE FROM notices');
    const found = await pell.call('POST /api/people/find-or-create', {
      body: { fullName: 'Ana Silva', email: ANA },
    });
    state.ana = found.body.person?.id ?? '';
    await house.work();
    house.mails.length = 0;
  });

  const sent = (): Sent[] => house.mails as unknown as Sent[];
  const post = (message: SendMailOptions): Promise<unknown> =>
    createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true }).sendMail(
      message,
    );
  return {
    state,
    sent,
    post,
    meet: async (over: Record<string, unknown> = {}) =>
      (
        await pell.call('POST /api/tasks', {
          body: {
            title: 'Trial ride',
            kind: 'meeting',
            dueAt: '2026-12-03T10:00:00Z',
            endAt: '2026-12-03T10:45:00Z',
            allDay: false,
            place: 'Quay 4',
            isInviting: true,
            people: [{ personId: state.ana }],
            ...over,
          },
        })
      ).body,
    /** What was mailed since, once the queue has worked: to whom, how, and which version. */
    async mailed() {
      await house.work();
      const seen = sent().map(({ to, calendar }) => {
        const [event] = readCalendar(calendar.content)?.events ?? [];
        return [to, calendar.method, event?.sequence];
      });
      return seen.sort();
    },
    eventOf(mail: Sent | undefined): CalendarEvent {
      const [event] = readCalendar(mail?.calendar.content ?? '')?.events ?? [];
      if (!event) throw new Error('nothing was mailed');
      return event;
    },
    peopleOf: async (id: string) =>
      (await delegating.detail(pell, id)).people.map(({ name, answer, invited }) => [name, answer, invited]),
    waiting: async (): Promise<number> => (await pell.call('GET /api/captures')).body.waiting,
    /** Somebody answers from their calendar program. */
    async answer(
      event: CalendarEvent,
      word: 'accepted' | 'declined' | 'tentative',
      { from = ANA, method = 'REPLY', text = '', messageId, ...over }: AnswerOptions = {},
    ): Promise<void> {
      const attendees = [{ email: ANA, name: 'Ana Silva', answer: word }];
      const content = writeCalendar(
        [{ ...event, attendees, stamp: '2026-11-25T10:00:00Z', ...over }],
        method,
      );
      await post({
        from,
        to: 'pell@wharfside.example',
        subject: `${word}: Trial ride`,
        text,
        ...(messageId ? { messageId } : {}),
        icalEvent: { method, content },
      });
    },
  };
}
