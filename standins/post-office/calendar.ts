import { simpleParser } from 'mailparser';

export const ANSWERS = { accept: 'ACCEPTED', maybe: 'TENTATIVE', decline: 'DECLINED' } as const;
export type AnswerWord = keyof typeof ANSWERS;

/** The calendar file that a message carries, its lines unfolded (RFC 5545, 3.1); null where it carries none. */
async function calendarOf(raw: Buffer): Promise<string | null> {
  const { attachments } = await simpleParser(raw);
  const found = attachments.find(({ contentType }) =>
    /^(?:text\/calendar|application\/ics)$/.test(contentType),
  );
  return found ? found.content.toString('utf8').replace(/\r?\n[ \t]/g, '') : null;
}

/** Whether a message asks somebody to come, and so can be answered. */
export const isInvitation = async (raw: Buffer): Promise<boolean> =>
  /^METHOD:REQUEST\r?$/m.test((await calendarOf(raw)) ?? '');

/**
 * The message in which a calendar program answers an invitation (RFC 5546, 3.2.3; RFC 6047).
 * @param who the address that was invited
 * @returns null where the message is no invitation
 */
export async function answerTo(
  raw: Buffer,
  who: string,
  word: AnswerWord,
  now: Date,
): Promise<{ to: string; raw: string } | null> {
  const calendar = await calendarOf(raw);
  const line = (name: string): string =>
    new RegExp(`^${name}[:;].*$`, 'm').exec(calendar ?? '')?.[0].trim() ?? '';
  const organizer = /mailto:(\S+)/i.exec(line('ORGANIZER'))?.[1];
  if (!calendar || !organizer || !(await isInvitation(raw))) return null;
  const summary = line('SUMMARY').replace(/^SUMMARY:/, '');
  const stamp = now.toISOString().replace(/[-:]|\.\d+/g, '');
  const reply = [
    'BEGIN:VCALENDAR',
    'PRODID:-//The letter box//Calendar//EN',
    'VERSION:2.0',
    'METHOD:REPLY',
    'BEGIN:VEVENT',
    line('UID'),
    line('SEQUENCE') || 'SEQUENCE:0',
    `DTSTAMP:${stamp}`,
    line('ORGANIZER'),
    `ATTENDEE;PARTSTAT=${ANSWERS[word]}:mailto:${who}`,
    'REQUEST-STATUS:2.0;Success',
    'END:VEVENT',
    'END:VCALENDAR',
    '',
  ];
  const head = [
    `From: <${who}>`,
    `To: <${organizer}>`,
    `Subject: =?UTF-8?B?${Buffer.from(`${ANSWERS[word].toLowerCase()}: ${summary}`).toString('base64')}?=`,
    `Date: ${now.toUTCString().replace('GMT', '+0000')}`,
    `Message-ID: <answer.${now.getTime()}.${Math.trunc(Math.random() * 1e9)}@letter-box.example>`,
    'MIME-Version: 1.0',
    'Content-Type: text/calendar; charset=utf-8; method=REPLY',
    'Content-Transfer-Encoding: base64',
    '',
    '',
  ];
  const body = Buffer.from(reply.join('\r\n')).toString('base64').replace(/.{76}/g, '$&\r\n');
  return { to: organizer, raw: `${head.join('\r\n')}${body}\r\n` };
}
