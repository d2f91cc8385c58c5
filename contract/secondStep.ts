import { z } from 'zod';
import { Done, IdParam, routes, Time, Version } from './common';

const Code = z.string().trim().min(1).max(40).describe('six digits of the app, or a recovery code');
const Password = z.string().min(1).max(500);
const Codes = z.object({
  codes: z.array(z.string()).describe('recovery codes; each signs in once, and they are shown this once'),
});
export const SecondStep = z.object({
  since: Time.nullable().describe('from when on a code is asked for; null where it is not'),
  codesLeft: z.int().describe('recovery codes that were not used'),
  isWanted: z.boolean().describe('whether your organisation asks you for it'),
  isPossible: z.boolean().describe('false where the server has no key to seal secrets with'),
});
export type SecondStep = z.infer<typeof SecondStep>;

export const CODE_RULES = ['by choice', 'managers', 'everybody'] as const;
const SignInRules = z.object({
  version: z.int(),
  codes: z
    .enum(CODE_RULES)
    .describe(
      'who has to sign in with a code as well: nobody who does not choose to, managers and admins, everybody',
    ),
});

/** Signing in with a code of an authenticator app (RFC 6238) besides the password. */
export const secondStepRoutes = routes({
  'GET /api/session/second-step': {
    summary: 'Whether signing in takes a code as well, and how many recovery codes are left',
    tag: 'session',
    reply: SecondStep,
  },
  'PUT /api/session/second-step/secret': {
    summary:
      'Begin: a new secret for an authenticator app; nothing is asked for until a code of it was given',
    tag: 'session',
    body: z.object({ password: Password }),
    reply: z.object({
      secret: z.string().describe('base32, to be typed into the app'),
      uri: z.string().describe('the same as otpauth://, for a QR code'),
    }),
  },
  'PUT /api/session/second-step': {
    summary: 'Turn it on with a first code of the app; every other session of mine ends',
    tag: 'session',
    body: z.object({ code: Code }),
    reply: Codes,
  },
  'PUT /api/session/second-step/recovery-codes': {
    summary: 'New recovery codes; the old ones are gone',
    tag: 'session',
    body: z.object({ password: Password, code: Code }),
    reply: Codes,
  },
  'DELETE /api/session/second-step': {
    summary: 'Turn it off',
    tag: 'session',
    body: z.object({ password: Password, code: Code }),
    reply: SecondStep,
  },
  'GET /api/admin/sign-in-rules': {
    summary: 'Who has to sign in with a code as well',
    tag: 'session',
    roles: ['admin'],
    reply: SignInRules,
  },
  'PATCH /api/admin/sign-in-rules': {
    summary: 'Choose who has to sign in with a code; whoever has none yet sets one up before anything else',
    tag: 'session',
    roles: ['admin'],
    body: z.object({ version: Version, codes: z.enum(CODE_RULES) }),
    reply: Done,
  },
  'DELETE /api/admin/users/:id/second-step': {
    summary: 'Turn it off for a colleague who lost both the app and the codes; their sessions end',
    tag: 'session',
    params: IdParam,
    roles: ['admin'],
    reply: z.object({ removed: z.literal(true) }),
  },
});
