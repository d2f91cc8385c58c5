import { z } from 'zod';
import { Done, Id, IdParam, Line, Named, routes, Time, Version } from './common';

const Address = z
  .string()
  .trim()
  .toLowerCase()
  .max(320)
  .regex(/^(?:[^\s@]+)?@[^\s@]+$/, 'is no address, nor @ and a domain');
export const Mailbox = z.object({
  id: Id,
  version: z.int(),
  address: z.string(),
  host: z.string(),
  port: z.int(),
  secure: z.boolean(),
  username: z.string(),
  choice: z.enum(['all', 'ask', 'none']),
  never: z.array(z.string()),
  state: z
    .enum(['new', 'reading', 'current', 'down', 'refused'])
    .describe('refused: the server does not take the password; it is not tried again until another is given'),
  trouble: z.string(),
  readAt: Time.nullable(),
  messages: z.int(),
  setAside: z
    .array(z.object({ sender: z.string(), reason: z.string(), at: Time }))
    .describe('messages that could not be filed automatically, newest first, at most 20'),
});
export type Mailbox = z.infer<typeof Mailbox>;
export const Correspondent = z.object({
  address: z.string(),
  name: z.string(),
  received: z.int(),
  sent: z.int(),
  first: Time,
  last: Time,
});
export type Correspondent = z.infer<typeof Correspondent>;

export const mailboxRoutes = routes({
  'GET /api/mailboxes': {
    summary: 'My mailboxes',
    tag: 'mailboxes',
    reply: z.object({ items: z.array(Mailbox) }),
  },
  'POST /api/mailboxes': {
    summary: 'Read a mailbox over IMAP from now on; nothing in it is changed',
    tag: 'mailboxes',
    status: 201,
    body: z.object({
      address: z.email().max(320),
      host: Line(255),
      port: z.int().min(1).max(65535).default(993),
      secure: z.boolean().default(true),
      username: Line(320),
      password: z.string().min(1).max(500),
      choice: z.enum(['all', 'ask', 'none']).default('all'),
    }),
    reply: Done.extend({ mailbox: Mailbox }),
  },
  'PATCH /api/mailboxes/:id': {
    summary: 'What is filed automatically, and what never is',
    tag: 'mailboxes',
    params: IdParam,
    body: z.object({
      version: Version,
      choice: z.enum(['all', 'ask', 'none']).optional(),
      never: z.array(Address).max(500).optional(),
      password: z.string().min(1).max(500).optional(),
    }),
    reply: Done,
  },
  'DELETE /api/mailboxes/:id': {
    summary: 'Stop reading a mailbox; what was filed stays',
    tag: 'mailboxes',
    params: IdParam,
    reply: Done,
  },
  'POST /api/mailboxes/:id/reading': {
    summary: 'Read it now',
    tag: 'mailboxes',
    params: IdParam,
    reply: z.object({ asked: z.literal(true) }),
  },
  'GET /api/mailboxes/:id/correspondents': {
    summary: 'People we write with often but do not have',
    tag: 'mailboxes',
    params: IdParam,
    reply: z.object({ items: z.array(Correspondent) }),
  },
  'GET /api/strangers': {
    summary: 'Who wrote to my mailboxes in the last 30 days and is in nobody’s records, newest first',
    tag: 'mailboxes',
    right: 'people.see',
    reply: z.object({ items: z.array(Correspondent.extend({ mailboxId: Id })) }),
  },
  'POST /api/mailboxes/:id/correspondents': {
    summary: 'File one of them as a person and bring their past messages along, or never ask again',
    tag: 'mailboxes',
    status: 201,
    params: IdParam,
    body: z.object({
      address: z.email(),
      name: z.string().trim().max(200).optional(),
      never: z.boolean().default(false),
    }),
    reply: Done.extend({ person: Named.nullable() }),
  },
});
