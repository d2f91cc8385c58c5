import { Id } from '@emporikon/contract/common';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { User } from '../db/models/users';
import { conflict, invalid } from '../http/problems';
import { defineEffect, queueEffect } from '../jobs/effect';
import { openSecret, sealSecret } from '../mailboxes/seal';
import { NotSent } from '../outside/notSent';
import { hashToken, newToken } from './secrets';

type Purpose = 'reset' | 'invitation';
const HOUR_MS = 3_600_000;
/** How long a link is good. */
const LASTS_MS: Record<Purpose, number> = { reset: HOUR_MS, invitation: 7 * 24 * HOUR_MS };
/** So many links to one account within an hour; whoever asks more often gets no further mail. */
const MOST_LINKS = 3;
/** So many askings from one address within an hour. */
const MOST_FROM_AN_ADDRESS = 20;

const Mailed = z.object({ userId: Id, purpose: z.enum(['reset', 'invitation']), sealed: z.string() });

const WORDS: Record<Purpose, { subject: string; text: (link: string) => string }> = {
  reset: {
    subject: 'Choose a new password',
    text: (link) =>
      `Somebody, most likely you, asked for a new password for Emporikon. Choose it on this page within an hour:\n\n${link}\n\nIf this was not you, ignore this message; your password stays as it is.\n`,
  },
  invitation: {
    subject: 'Your account for Emporikon',
    text: (link) =>
      `There is an account for you in Emporikon. Choose your password on this page within a week, and you are in:\n\n${link}\n`,
  },
};

/** Mails a link by which somebody chooses a password. What waits to be sent holds it sealed. */
export const passwordMail = defineEffect({
  name: 'mailPasswordLink',
  lane: 'mail',
  input: Mailed,
  lastsMs: HOUR_MS,
  waits: { first: 5000, longest: 300_000 },
  async send(tools, { userId, purpose, sealed }, { id }) {
    const { outside, house } = tools;
    if (!outside.post) throw new NotSent('no mail server is set up', true);
    const token = openSecret(outside.sealKey, sealed);
    const email = await runInTransaction(tools, null, async (context) =>
      (await isGood(context, token)) ? (await activeUser(context, userId))?.email : null,
    );
    if (!email) throw new NotSent('the link is no longer wanted', true);
    const { subject, text } = WORDS[purpose];
    // After the #, so that it stands in no log of a server on the way.
    await outside.post.send({
      ...{ id: `password.${id}`, to: email, subject, isAutomatic: true },
      text: text(`${house.publicUrl}/new-password#${token}`),
    });
  },
  settle: (_context, _input, { state }) =>
    Promise.resolve(
      state === 'sent' ? 'Mailed a link for a password' : 'A link for a password could not be mailed',
    ),
  prepareRepeat: () => Promise.reject(conflict('Ask for a new link instead; this one is old.')),
});

const activeUser = (context: Context, id: string): Promise<User | null> =>
  User.findOne({ where: { id, active: true }, transaction: context.tx });

async function findLink(context: Context, token: string): Promise<{ user_id: string } | undefined> {
  const [link] = await context.sequelize.query<{ user_id: string }>(
    'SELECT user_id FROM password_links WHERE token_hash = $hash AND expires_at > $now FOR UPDATE',
    {
      bind: { hash: hashToken(token), now: context.now() },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return link;
}
const isGood = async (context: Context, token: string): Promise<boolean> =>
  (await findLink(context, token)) !== undefined;

/** Mails somebody a new link. */
export async function sendLink(context: Context, user: User, purpose: Purpose): Promise<void> {
  const token = newToken();
  const now = context.now();
  await context.sequelize.query(
    `WITH old AS (DELETE FROM password_links WHERE expires_at < $now)
     INSERT INTO password_links (token_hash, user_id, purpose, made_at, expires_at) VALUES ($hash, $userId, $purpose, $now, $until)`,
    {
      bind: {
        ...{ hash: hashToken(token), userId: user.id, purpose, now },
        until: new Date(now.getTime() + LASTS_MS[purpose]),
      },
      type: QueryTypes.INSERT,
      transaction: context.tx,
    },
  );
  const sealed = sealSecret(context.outside.sealKey, token);
  await queueEffect(
    context,
    passwordMail,
    { userId: user.id, purpose, sealed },
    { table: 'users', id: user.id },
    null,
  );
}

/** Whether no more links are asked for, to this account or from this address, than somebody needs. */
export async function mayAskForLink(
  { sequelize, now }: Pick<Tools, 'sequelize' | 'now'>,
  userId: string,
  address: string,
): Promise<boolean> {
  const since = new Date(now().getTime() - HOUR_MS);
  const [told] = await sequelize.query<{ links: number; askings: number }>(
    `SELECT (SELECT count(*)::int FROM password_links WHERE user_id = $userId AND purpose = 'reset' AND made_at > $since) AS links,
            (SELECT count(*)::int FROM sign_in_events WHERE what = 'link asked for' AND address = $address AND at > $since) AS askings`,
    { bind: { userId, address, since }, type: QueryTypes.SELECT },
  );
  return (told?.links ?? 0) < MOST_LINKS && (told?.askings ?? 0) < MOST_FROM_AN_ADDRESS;
}

/**
 * Whose password a link lets somebody choose. The link is used up by it, and so are all others of that account.
 * @throws 422 for a link that is unknown, used or too old, or of an account that is switched off
 */
export async function useLink(context: Context, token: string): Promise<User> {
  const link = await findLink(context, token);
  const user = link && (await activeUser(context, link.user_id));
  if (!user)
    throw invalid('This link is not valid any more. Ask for a new one.', {
      fields: { token: 'is not valid' },
    });
  await context.sequelize.query('DELETE FROM password_links WHERE user_id = $id', {
    bind: { id: user.id },
    transaction: context.tx,
  });
  return user;
}
