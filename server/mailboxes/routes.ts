import type { Mailbox as MailboxView } from '@emporikon/contract/mailboxes';
import { nameFromLocalPart } from '@emporikon/core/people/names';
import { localPart, normalizeEmail } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Mailbox } from '../db/models/mailboxes';
import type { Handlers } from '../http/mount';
import { conflict, notFound } from '../http/problems';
import { addJob } from '../jobs/job';
import { bringAlongJob, readJob } from './jobs';
import { addPerson } from '../people/commands';
import { sealPassword } from './seal';
import { correspondentsOf } from './correspondents';
import { peopleBy } from './sort';

async function own(context: Context, id: string): Promise<Mailbox> {
  const mailbox = await Mailbox.findOne({
    where: { id, userId: requireActor(context).id },
    transaction: context.tx,
    lock: true,
  });
  if (!mailbox) throw notFound('You have no such mailbox.');
  return mailbox;
}

async function asView(context: Context, mailbox: Mailbox): Promise<MailboxView> {
  const [count] = await context.sequelize.query<{ n: number }>(
    'SELECT count(DISTINCT (path, uid_validity, uid))::int AS n FROM mailbox_messages WHERE mailbox_id = :id',
    { replacements: { id: mailbox.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const setAside = await context.sequelize.query<{ sender: string; reason: string; at: Date }>(
    'SELECT sender, reason, at FROM mailbox_set_aside WHERE mailbox_id = :id ORDER BY at DESC LIMIT 20',
    { replacements: { id: mailbox.id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return {
    id: mailbox.id,
    version: mailbox.version,
    address: mailbox.address,
    host: mailbox.host,
    port: mailbox.port,
    secure: mailbox.secure,
    username: mailbox.username,
    choice: mailbox.choice ?? 'all',
    never: mailbox.never ?? [],
    state: mailbox.state ?? 'new',
    trouble: mailbox.trouble ?? '',
    readAt: mailbox.readAt?.toISOString() ?? null,
    messages: count?.n ?? 0,
    setAside: setAside.map((one) => ({ ...one, at: one.at.toISOString() })),
  };
}

/** From how many messages on we say that we write with somebody often. */
const OFTEN = 2;

/** Strangers are shown for so many days after they last wrote. */
const RECENT_DAYS = 30;
const DAY_MS = 86_400_000;

export const mailboxHandlers: Handlers = {
  'GET /api/mailboxes': async ({ context }) => {
    const rows = await Mailbox.findAll({
      where: { userId: requireActor(context).id },
      order: ['createdAt'],
      transaction: context.tx,
    });
    const items = [];
    for (const row of rows) items.push(await asView(context, row));
    return { items };
  },
  'POST /api/mailboxes': async ({ body, context }) => {
    const { password, ...given } = body;
    const userId = requireActor(context).id;
    const address = given.address.toLowerCase();
    if (await Mailbox.findOne({ where: { userId, address }, transaction: context.tx }))
      throw conflict(`${address} is read already.`);
    const mailbox = await context.write.insert(Mailbox, {
      id: context.newId(),
      ...given,
      address,
      userId,
      sealed: sealPassword(context.outside.sealKey, password),
      createdAt: context.now(),
    });
    await addJob(context, readJob, { id: mailbox.id }, `mailbox:${mailbox.id}`);
    const eventId = await context.write.event('add mailbox', `Reads ${address} from now on`, userId);
    return { eventId, mailbox: await asView(context, mailbox) };
  },
  'PATCH /api/mailboxes/:id': async ({ params, body, context }) => {
    const mailbox = await own(context, params.id);
    const { version, password, ...patch } = body;
    await context.write.update(
      mailbox,
      {
        ...patch,
        ...(password
          ? { sealed: sealPassword(context.outside.sealKey, password), state: 'new', trouble: '' }
          : {}),
      },
      version,
    );
    if (password) await addJob(context, readJob, { id: mailbox.id }, `mailbox:${mailbox.id}`);
    return {
      eventId: await context.write.event(
        'change mailbox',
        `Changed ${mailbox.address}`,
        requireActor(context).id,
      ),
    };
  },
  'DELETE /api/mailboxes/:id': async ({ params, context }) => {
    const mailbox = await own(context, params.id);
    await context.write.remove(mailbox);
    await context.write.event('remove mailbox', `Reads ${mailbox.address} no more`, requireActor(context).id);
    return { eventId: null };
  },
  'POST /api/mailboxes/:id/reading': async ({ params, context }) => {
    const mailbox = await own(context, params.id);
    await addJob(context, readJob, { id: mailbox.id }, `mailbox:${mailbox.id}`);
    return { asked: true };
  },
  'GET /api/mailboxes/:id/correspondents': async ({ params, context }) => {
    const mailbox = await own(context, params.id);
    return { items: await correspondentsOf(context, mailbox, { least: OFTEN }) };
  },
  'GET /api/strangers': async ({ context }) => {
    const mailboxes = await Mailbox.findAll({
      where: { userId: requireActor(context).id },
      order: ['createdAt'],
      transaction: context.tx,
    });
    const since = new Date(context.now().getTime() - RECENT_DAYS * DAY_MS);
    const items = [];
    for (const mailbox of mailboxes)
      for (const one of await correspondentsOf(context, mailbox, { least: 1, since }))
        if (one.received > 0) items.push({ ...one, mailboxId: mailbox.id });
    return { items: items.sort((a, b) => b.last.localeCompare(a.last)) };
  },
  'POST /api/mailboxes/:id/correspondents': async ({ params, body, context }) => {
    const mailbox = await own(context, params.id);
    const address = normalizeEmail(body.address);
    if (body.never) {
      await context.write.update(mailbox, { never: [...new Set([...(mailbox.never ?? []), address])] });
      const eventId = await context.write.event(
        'never file',
        `Never files ${address}`,
        requireActor(context).id,
      );
      return { eventId, person: null };
    }
    const known = (await peopleBy(context, [address])).get(address);
    const name = body.name || nameFromLocalPart(localPart(address)) || address;
    const { id, eventId } = known
      ? { id: known, eventId: null }
      : await addPerson(context, { fullName: name, email: address });
    await addJob(context, bringAlongJob, { mailboxId: mailbox.id, address, personId: id });
    return { eventId, person: { id, name } };
  },
};
