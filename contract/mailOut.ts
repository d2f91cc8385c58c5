import { z } from 'zod';
import { Done, Line, routes, Time, Version } from './common';

const Signature = z.object({
  version: z.int(),
  html: z.string(),
  picture: z.string().nullable().describe('a data: URL'),
});
const Submission = z.object({
  version: z.int(),
  host: z.string(),
  port: z.int(),
  secure: z.boolean().describe('TLS from the start; otherwise the connection changes to it (STARTTLS)'),
  username: z.string(),
  state: z.enum(['new', 'works', 'down', 'refused']),
  trouble: z.string(),
  triedAt: Time.nullable(),
});
export type Submission = z.infer<typeof Submission>;

const DomainRecord = z.object({
  kind: z.enum(['SPF', 'DKIM', 'DMARC']),
  host: z.string().describe('where the TXT record stands'),
  state: z.enum(['right', 'missing', 'wrong', 'unknown']).describe('unknown: the resolver did not answer'),
  found: z.array(z.string()),
  wanted: z.string().describe('what to write there; empty where it is right'),
  why: z.string(),
});
export const MailDomain = z.object({
  domain: z.string(),
  selector: z.string().nullable().describe('of the key that mail is signed with; null where none is'),
  records: z.array(DomainRecord),
});
export type MailDomain = z.infer<typeof MailDomain>;
const DomainParam = z.object({ domain: z.string().max(255) });

export const mailOutRoutes = routes({
  'GET /api/signature': {
    summary: 'What stands below my letters',
    tag: 'letters',
    reply: Signature,
  },
  'PUT /api/signature': {
    summary: 'Change what stands below my letters',
    tag: 'letters',
    body: z.object({
      version: z.int().min(0).describe('0 where there is none yet'),
      html: z.string().max(20_000),
    }),
    reply: Done,
  },
  'POST /api/signature/picture': {
    summary: 'Put a picture below my letters: PNG, JPEG or GIF, at most 200 kB',
    tag: 'letters',
    raw: ['image/png', 'image/jpeg', 'image/gif'],
    reply: Done,
  },
  'DELETE /api/signature/picture': {
    summary: 'Remove the picture below my letters',
    tag: 'letters',
    reply: Done,
  },
  'GET /api/submission': {
    summary: 'The server that takes my own mail; null where that of the organisation does',
    tag: 'letters',
    reply: z.object({ submission: Submission.nullable(), hasOrganisation: z.boolean() }),
  },
  'PUT /api/submission': {
    summary: 'Send my mail by a server of my own (RFC 6409); it is tried before it is saved',
    tag: 'letters',
    body: z.object({
      version: Version.optional(),
      host: Line(255),
      port: z.int().min(1).max(65535).default(465),
      secure: z.boolean().default(true),
      username: Line(320),
      password: z.string().min(1).max(500),
    }),
    reply: Done.extend({ submission: Submission }),
  },
  'DELETE /api/submission': {
    summary: 'Send my mail by the organisation’s server again',
    tag: 'letters',
    reply: Done,
  },
  'GET /api/mail-domains': {
    summary: 'What the name servers say of our domains, and what to write where something is missing',
    tag: 'letters',
    roles: ['manager', 'admin'],
    reply: z.object({ items: z.array(MailDomain) }),
  },
  'POST /api/mail-domains/:domain/key': {
    summary: 'Make a key by which mail of a domain is signed (DKIM); one of before is replaced',
    tag: 'letters',
    roles: ['admin'],
    status: 201,
    params: DomainParam,
    reply: Done,
  },
  'DELETE /api/mail-domains/:domain/key': {
    summary: 'Sign mail of a domain no more',
    tag: 'letters',
    roles: ['admin'],
    params: DomainParam,
    reply: Done,
  },
});
