import { z } from 'zod';
import { Id, IdParam, Page, routes, Time } from './common';

export const NoticeKind = z.enum(['mention', 'given', 'done', 'moved', 'passed on', 'owner']);
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
  at: Time,
  isRead: z.boolean(),
});
export type Notice = z.infer<typeof Notice>;

export const noticeRoutes = routes({
  'GET /api/notices': {
    summary:
      'What is for you: mentions, what was given to you, and what became of what you gave; newest first',
    tag: 'notices',
    query: Page,
    reply: z.object({ items: z.array(Notice), next: z.string().nullable() }),
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
