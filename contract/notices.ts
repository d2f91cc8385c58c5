import { NOTICE_KINDS } from '@emporikon/core/ledger/notices';
import { z } from 'zod';
import { Id, IdParam, Page, routes, Time, TimeOfDay } from './common';

export const NoticeKind = z.enum(NOTICE_KINDS);
export const Notice = z.object({
  id: Id,
  kind: NoticeKind,
  title: z.string().describe('the note, next move or record it is about'),
  detail: z.string(),
  actor: z.string().nullable(),
  about: z
    .object({ kind: z.enum(['person', 'company', 'lead', 'deal']), id: Id, name: z.string() })
    .nullable()
    .describe('where it can be looked at'),
  taskId: Id.nullable().describe('the task it is about'),
  at: Time,
  isRead: z.boolean(),
});
export type Notice = z.infer<typeof Notice>;
export const NoticeChoice = z.object({
  kind: NoticeKind,
  mail: z.enum(['at once', 'digest', 'off']),
  browser: z.boolean().describe('while the program is open somewhere in the background'),
});
export type NoticeChoice = z.infer<typeof NoticeChoice>;
const NoticeSettings = z.object({
  choices: z.array(NoticeChoice),
  digestAt: TimeOfDay.describe('when the mail of the day goes out, on your clock'),
  roundMail: z.boolean().describe('your round is mailed to you at that time on working days'),
  quiet: z
    .object({ from: TimeOfDay, until: TimeOfDay })
    .nullable()
    .describe('when nothing is mailed or shown by the browser, on your clock; it may go over midnight'),
});

export const noticeRoutes = routes({
  'GET /api/notices': {
    summary:
      'What is for you: mentions, what was given to you, and what became of what you gave; newest first',
    tag: 'notices',
    query: Page,
    reply: z.object({ items: z.array(Notice), next: z.string().nullable() }),
  },
  'GET /api/notices/settings': {
    summary: 'How each kind of notice reaches you',
    tag: 'notices',
    reply: NoticeSettings,
  },
  'PATCH /api/notices/settings': {
    summary: 'Change how notices reach you',
    tag: 'notices',
    body: z.object({
      choices: z.array(NoticeChoice).max(20).optional(),
      digestAt: TimeOfDay.optional(),
      roundMail: z.boolean().optional(),
      quiet: z.object({ from: TimeOfDay, until: TimeOfDay }).nullable().optional(),
    }),
    reply: NoticeSettings,
  },
  'PATCH /api/notices/:id': {
    summary: 'Mark a notice as read or unread',
    tag: 'notices',
    params: IdParam,
    body: z.object({ isRead: z.boolean() }),
    reply: z.object({ isRead: z.boolean() }),
  },
  'POST /api/notices/read': {
    summary: 'Mark all notices as read',
    tag: 'notices',
    body: z.object({}),
    reply: z.object({ marked: z.int() }),
  },
});
