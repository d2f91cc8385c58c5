import { z } from 'zod';
import { Id, IdParam, Line, Page, routes, Time, TimeOfDay, TimeZone, Version } from './common';

/** Whether a browser could show days and numbers by it. */
function isLocale(tag: string): boolean {
  try {
    return (
      Intl.getCanonicalLocales(tag).length === 1 && Intl.DateTimeFormat.supportedLocalesOf(tag).length === 1
    );
  } catch {
    return false;
  }
}
const Locale = z.string().max(35).refine(isLocale, 'is not a language tag such as en-GB');

export const Role = z.enum(['rep', 'manager', 'admin']);
const CardFirst = z
  .record(z.string().max(20), z.array(z.string().max(60)).max(60))
  .refine((kinds) => Object.keys(kinds).length <= 20, 'names too many kinds')
  .describe('by kind of record which facts your cards show first, in order');
export const Me = z.object({
  id: Id,
  name: z.string(),
  email: z.string(),
  role: Role.describe('what a role of your own organisation is based on, where you have one'),
  rights: z.array(z.string()).describe('what you may do: people.see, deals.export, settings.scoring'),
  timeZone: z.string(),
  locale: z.string().nullable().describe('BCP 47; null follows the browser'),
  currency: z.string(),
  country: z.string().describe('ISO 3166-1, where a number without a country code is from'),
  holidays: z
    .string()
    .nullable()
    .describe('whose public holidays you keep: PT, DE-BY; null keeps those of the organisation’s country'),
  worksFrom: TimeOfDay.describe('when your working day begins, on your clock'),
  worksUntil: TimeOfDay,
  cardFirst: CardFirst,
  mustAddCode: z.boolean().describe('whether signing in with a code has to be set up before anything else'),
});
export type Me = z.infer<typeof Me>;
export const Teammate = z.object({
  id: Id,
  name: z.string(),
  role: Role,
  team: z.string().describe('whose figures are looked at together; empty for none'),
});
export type Teammate = z.infer<typeof Teammate>;
const Rights = z
  .enum(['all', 'read', 'capture'])
  .describe('what a token may do: all that you may; only read; only hand in captures');
export type TokenRights = z.infer<typeof Rights>;
export const Token = z.object({
  id: Id,
  name: z.string(),
  rights: Rights,
  createdAt: Time,
  lastUsedAt: Time.nullable(),
  expiresAt: Time.nullable(),
});
export type Token = z.infer<typeof Token>;

const Email = z.string().trim().toLowerCase().max(320).pipe(z.email());
export const Password = z
  .string()
  .min(12, 'at least 12 characters')
  .max(500)
  .describe('any characters; length is what makes it hard to guess');
export const HouseUser = z.object({
  id: Id,
  version: z.int(),
  name: z.string(),
  email: z.string(),
  role: Role,
  roleId: Id.nullable().describe('a role of the organisation’s own, whose rights count'),
  team: z.string(),
  active: z.boolean(),
  lastSeenAt: Time.nullable(),
  hasSecondStep: z.boolean().describe('whether signing in takes a code as well'),
});
export type HouseUser = z.infer<typeof HouseUser>;
const Origin = {
  device: z.string().describe('what the browser said it is'),
  address: z.string().describe('the network address it came from'),
};
const SessionPlace = z.object({
  id: Id,
  ...Origin,
  createdAt: Time,
  lastSeenAt: Time,
  isHere: z.boolean().describe('the one that asks'),
});
export type SessionPlace = z.infer<typeof SessionPlace>;
const SignInEvent = z.enum([
  'signed in',
  'refused',
  'signed out',
  'link asked for',
  'password set',
  'password changed',
  'code refused',
  'recovery code used',
  'second step on',
  'second step off',
]);
export type SignInEvent = z.infer<typeof SignInEvent>;
const SignIn = z.object({
  id: Id,
  email: z.string().describe('as it was typed'),
  name: z.string().nullable().describe('null where nobody has the address'),
  what: SignInEvent,
  ...Origin,
  at: Time,
});
export type SignIn = z.infer<typeof SignIn>;
const SignIns = z.object({ items: z.array(SignIn), next: z.string().nullable() });

export const sessionRoutes = routes({
  'POST /api/session': {
    summary: 'Sign in; sets the session cookie',
    tag: 'session',
    open: true,
    body: z.object({
      email: z.string().trim().toLowerCase().max(320),
      password: z.string().min(1).max(500),
      code: z
        .string()
        .max(40)
        .optional()
        .describe(
          'six digits of the authenticator app or a recovery code, for an account with a second step',
        ),
    }),
    reply: Me,
  },
  'GET /api/session/ways': {
    summary: 'How one can sign in here, besides with a password',
    tag: 'session',
    open: true,
    reply: z.object({
      openId: z
        .object({ name: z.string() })
        .nullable()
        .describe('a provider of sign-in: go to /openid/begin?to=/… to sign in by it'),
    }),
  },
  'GET /api/session': { summary: 'Who is signed in', tag: 'session', reply: Me },
  'DELETE /api/session': {
    summary: 'Sign out',
    tag: 'session',
    reply: z.object({ signedOut: z.literal(true) }),
  },
  'PATCH /api/session': {
    summary: 'Change my own settings',
    tag: 'session',
    body: z.object({
      timeZone: z.string().max(60).optional(),
      locale: Locale.nullable().optional(),
      holidays: z.string().max(60).nullable().optional(),
      worksFrom: TimeOfDay.optional(),
      worksUntil: TimeOfDay.optional(),
      cardFirst: CardFirst.optional(),
    }),
    reply: Me,
  },
  'PUT /api/session/password': {
    summary: 'Change my password; every other session of mine ends',
    tag: 'session',
    body: z.object({ current: z.string().min(1).max(500), next: Password }),
    reply: z.object({ changed: z.literal(true) }),
  },
  'POST /api/session/password-link': {
    summary: 'Ask for a link by mail, to choose a new password; the answer is the same whoever asks',
    tag: 'session',
    open: true,
    body: z.object({ email: z.string().trim().toLowerCase().max(320) }),
    reply: z.object({ asked: z.literal(true) }),
  },
  'PUT /api/session/password-link': {
    summary: 'Choose a password by such a link, or by an invitation; every session of the account ends',
    tag: 'session',
    open: true,
    body: z.object({ token: z.string().min(1).max(200), password: Password }),
    reply: z.object({ email: z.string() }),
  },
  'GET /api/sessions': {
    summary: 'Where I am signed in',
    tag: 'session',
    reply: z.object({ items: z.array(SessionPlace) }),
  },
  'DELETE /api/sessions/:id': {
    summary: 'Sign out in one place',
    tag: 'session',
    params: IdParam,
    reply: z.object({ signedOut: z.literal(true) }),
  },
  'GET /api/sign-ins': {
    summary: 'When I signed in, and who tried to as me; kept for 180 days',
    tag: 'session',
    query: Page,
    reply: SignIns,
  },
  'GET /api/admin/sign-ins': {
    summary: 'Who signed in, and who tried to',
    tag: 'session',
    roles: ['admin'],
    query: Page,
    reply: SignIns,
  },
  'POST /api/admin/users/:id/invitation': {
    summary: 'Mail a colleague a link to choose a password; it is good for a week',
    tag: 'session',
    params: IdParam,
    roles: ['admin'],
    reply: z.object({ sent: z.literal(true) }),
  },
  'DELETE /api/sessions': {
    summary: 'Sign me out everywhere, here too',
    tag: 'session',
    reply: z.object({ signedOut: z.literal(true) }),
  },
  'DELETE /api/admin/users/:id/sessions': {
    summary: 'Sign a colleague out everywhere; their access tokens stay',
    tag: 'session',
    params: IdParam,
    roles: ['admin'],
    reply: z.object({ ended: z.int() }),
  },
  'DELETE /api/admin/sessions': {
    summary: 'Sign everybody out everywhere, but for me here',
    tag: 'session',
    roles: ['admin'],
    reply: z.object({ ended: z.int() }),
  },
  'GET /api/admin/users': {
    summary: 'Everybody who has or had an account',
    tag: 'session',
    roles: ['admin'],
    reply: z.object({ items: z.array(HouseUser) }),
  },
  'POST /api/admin/users': {
    summary: 'Add a colleague; without a first password they are invited by mail to choose one',
    tag: 'session',
    status: 201,
    roles: ['admin'],
    body: z.object({
      name: Line(120),
      email: Email,
      role: Role.default('rep'),
      roleId: Id.nullable().default(null).describe('a role of the organisation’s own, instead'),
      team: z.string().trim().max(80).default(''),
      timeZone: TimeZone.default('UTC'),
      password: Password.optional(),
    }),
    reply: HouseUser,
  },
  'PATCH /api/admin/users/:id': {
    summary: 'Change a role or team, switch an account off or on, or set a new password',
    tag: 'session',
    params: z.object({ id: Id }),
    roles: ['admin'],
    body: z.object({
      version: Version,
      role: Role.optional().describe('one that is always there; takes away a role of the organisation’s own'),
      roleId: Id.optional().describe('a role of the organisation’s own'),
      team: z.string().trim().max(80).optional(),
      active: z.boolean().optional(),
      password: Password.optional(),
    }),
    reply: HouseUser,
  },
  'GET /api/users': { summary: 'The team', tag: 'session', reply: z.object({ items: z.array(Teammate) }) },
  'GET /api/tokens': {
    summary: 'My access tokens',
    tag: 'session',
    reply: z.object({ items: z.array(Token) }),
  },
  'POST /api/tokens': {
    summary: 'Make an access token; it is shown this once',
    tag: 'session',
    status: 201,
    body: z.object({
      name: Line(80),
      rights: Rights.default('all'),
      days: z.int().min(1).max(3650).nullish().describe('after how many days it ends; never when left out'),
    }),
    reply: Token.extend({ token: z.string() }),
  },
  'DELETE /api/tokens/:id': {
    summary: 'Revoke an access token',
    tag: 'session',
    params: z.object({ id: Id }),
    reply: z.object({ revoked: z.literal(true) }),
  },
});
