import { QueryTypes } from 'sequelize';
import { runInTransaction, type Actor, type Tools } from '../commands/context';
import { readMail } from '../captures/arrivals';
import { Mailbox } from '../db/models/mailboxes';
import {
  openImap,
  SignInRefused,
  type ImapAccount,
  type ImapReader,
  type OpenFolder,
  type Seen,
} from '../outside/imap';
import { findActiveActor } from '../session/identify';
import { fileMessage } from './file';
import { unseal } from './seal';
import { keepState, planBatch, stateOf, takeMessage } from './take';

const BATCH = 50;

async function takeBatch(
  tools: Tools,
  actor: Actor,
  mailbox: Mailbox,
  reader: ImapReader,
  folder: OpenFolder,
  batch: readonly Seen[],
): Promise<void> {
  const planned = await planBatch(tools, actor, mailbox, batch);
  const wanted =
    mailbox.choice === 'none'
      ? []
      : planned.filter(({ people, isTaskReply, isReport }) => isTaskReply || isReport || people.length > 0);
  const sources = await reader.sources(wanted.map(({ seen }) => seen.uid));
  for (const one of planned) await takeMessage(tools, actor, mailbox, folder, one, sources.get(one.seen.uid));
}

async function readFolder(
  tools: Tools,
  actor: Actor,
  mailbox: Mailbox,
  reader: ImapReader,
  path: string,
): Promise<void> {
  const folder = await reader.open(path);
  const state = await runInTransaction(tools, null, (context) => stateOf(context, mailbox.id, path));
  // Another UIDVALIDITY means that the UIDs of before name other messages now (RFC 3501 §2.3.1.1): all are looked at
  // again, and what was filed is known by its content.
  let next = state && Number(state.uid_validity) === folder.uidValidity ? Number(state.uid_next) : 1;
  while (next < folder.uidNext) {
    const batch = await reader.since(next, BATCH);
    if (!batch.length) break;
    await takeBatch(tools, actor, mailbox, reader, folder, batch);
    next = (batch.at(-1)?.uid ?? next) + 1;
  }
  await runInTransaction(tools, null, (context) =>
    keepState(context, mailbox.id, folder, Math.max(next, folder.uidNext)),
  );
}

async function say(
  tools: Tools,
  mailbox: Mailbox,
  patch: Partial<Pick<Mailbox, 'state' | 'trouble' | 'readAt'>>,
): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    const row = await Mailbox.findByPk(mailbox.id, { transaction: context.tx, lock: true });
    if (!row) return;
    await context.write.update(row, patch);
    await context.write.event('read mailbox', `Read ${row.address}`, null);
  });
}

/** How somebody's mailbox is signed in to. @throws with words for people */
export function accountOf({ outside: { sealKey } }: Pick<Tools, 'outside'>, mailbox: Mailbox): ImapAccount {
  if (!sealKey) throw new Error('no key for mailbox passwords is set (EMPORIKON_SECRET)');
  try {
    return { ...mailbox.get({ plain: true }), password: unseal(mailbox.sealed, sealKey) };
  } catch {
    throw new Error('The saved password cannot be read with the current key. Enter it again.');
  }
}

/** Opens somebody's mailbox. @throws with words for people */
export const openMailbox = async (tools: Tools, mailbox: Mailbox): Promise<ImapReader> =>
  openImap(accountOf(tools, mailbox), tools.outside.door);

/**
 * Reads what is new in a mailbox. A connection that drops leaves what was done done; the next reading goes on there.
 * @throws when the server is down, so that the queue tries again; the mailbox says so meanwhile
 */
export async function readMailbox(tools: Tools, id: string): Promise<void> {
  const mailbox = await Mailbox.findByPk(id);
  const actor = mailbox ? await findActiveActor(mailbox.userId) : null;
  if (!mailbox || !actor) return;
  if (mailbox.state !== 'reading') await say(tools, mailbox, { state: 'reading' });
  let reader: ImapReader | null = null;
  try {
    reader = await openMailbox(tools, mailbox);
    for (const path of await reader.folders()) await readFolder(tools, actor, mailbox, reader, path);
    await say(tools, mailbox, { state: 'current', trouble: '', readAt: tools.now() });
  } catch (error) {
    const words = error instanceof Error ? error.message : String(error);
    const isRefused = error instanceof SignInRefused;
    await say(tools, mailbox, { state: isRefused ? 'refused' : 'down', trouble: words.slice(0, 300) });
    // Trying a wrong password again and again would lock the mailbox; it is tried once another one is given.
    if (!isRefused) throw error;
  } finally {
    await reader?.close();
  }
}

/** Brings the past messages of somebody who was just filed into the ledger. */
export async function bringAlong(
  tools: Tools,
  mailboxId: string,
  address: string,
  personId: string,
): Promise<void> {
  const mailbox = await Mailbox.findByPk(mailboxId);
  const actor = mailbox ? await findActiveActor(mailbox.userId) : null;
  if (!mailbox || !actor) return;
  const rows = await tools.sequelize.query<{ path: string; uid_validity: number; uid: number; at: Date }>(
    'SELECT path, uid_validity, uid, at FROM mailbox_messages WHERE mailbox_id = :mailboxId AND address = :address AND NOT filed ORDER BY at',
    { replacements: { mailboxId, address }, type: QueryTypes.SELECT },
  );
  if (!rows.length) return;
  const reader = await openMailbox(tools, mailbox);
  try {
    for (const path of new Set(rows.map((row) => row.path))) {
      const folder = await reader.open(path);
      const here = rows.filter((row) => row.path === path && Number(row.uid_validity) === folder.uidValidity);
      for (let from = 0; from < here.length; from += BATCH) {
        const batch = here.slice(from, from + BATCH);
        const sources = await reader.sources(batch.map((row) => Number(row.uid)));
        for (const row of batch) {
          const raw = sources.get(Number(row.uid));
          const arrival = raw ? await readMail(tools, actor, raw) : null;
          await runInTransaction(tools, actor, async (context) => {
            if (arrival) await fileMessage(context, arrival, row.at, [personId]);
            await context.sequelize.query(
              'UPDATE mailbox_messages SET filed = true WHERE mailbox_id = :mailboxId AND path = :path AND uid = :uid AND address = :address',
              { replacements: { mailboxId, path, uid: row.uid, address }, transaction: context.tx },
            );
          });
        }
      }
    }
  } finally {
    await reader.close();
  }
}
