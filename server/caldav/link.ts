import { QueryTypes } from 'sequelize';
import { runInTransaction, type Tools } from '../commands/context';
import { CaldavLink } from '../db/models/caldav';
import { unseal } from '../mailboxes/seal';
import { openDav, type Dav } from '../outside/dav';
import { DavTrouble } from '../outside/davFetch';

/** A process that was ended does not hold an account for longer. */
const LEASE_MS = 60_000;

/** Takes an account for this process alone; null where another has it, or it was given up. */
export async function takeLease(tools: Tools, id: string): Promise<CaldavLink | null> {
  const taken = await renewLease(tools, id, true);
  return taken
    ? runInTransaction(tools, null, ({ tx }) => CaldavLink.findByPk(id, { transaction: tx }))
    : null;
}

/** Keeps it for as long again. @returns whether this process (still) has it */
export async function renewLease(tools: Tools, id: string, isNew = false): Promise<boolean> {
  const rows = await runInTransaction(tools, null, ({ sequelize, tx }) =>
    sequelize.query<{ id: string }>(
      `UPDATE caldav_links SET lease_until = $until WHERE id = $id AND ended_at IS NULL
        AND ($isHeld OR lease_until IS NULL OR lease_until < $now) RETURNING id`,
      {
        bind: { id, until: new Date(tools.now().getTime() + LEASE_MS), now: tools.now(), isHeld: !isNew },
        type: QueryTypes.SELECT,
        transaction: tx,
      },
    ),
  );
  return rows.length > 0;
}

/** Keeps it while a server takes its time to answer, until it is cleared. A process that hangs or is ended keeps nothing. */
export const keepLease = (tools: Tools, id: string): NodeJS.Timeout =>
  setInterval(() => void renewLease(tools, id).catch(() => false), LEASE_MS / 3);

export const endLease = (tools: Tools, id: string): Promise<unknown> =>
  runInTransaction(tools, null, ({ sequelize, tx }) =>
    sequelize.query('UPDATE caldav_links SET lease_until = NULL WHERE id = $id', {
      bind: { id },
      transaction: tx,
    }),
  );

/** Opens the account with its password. @throws with words for people */
export function openLink({ outside }: Tools, link: CaldavLink): Dav {
  if (!outside.sealKey) throw new DavTrouble('EMPORIKON_SECRET is not set, so the password cannot be read.');
  let password: string;
  try {
    password = unseal(link.sealed, outside.sealKey);
  } catch {
    throw new DavTrouble('The saved password cannot be read with the current key. Enter it again.');
  }
  return openDav({ url: link.url, username: link.username, password }, outside.door);
}

type State = Partial<
  Pick<
    CaldavLink,
    | 'state'
    | 'trouble'
    | 'clashes'
    | 'syncedAt'
    | 'mark'
    | 'readOn'
    | 'mayRemove'
    | 'calendars'
    | 'calendarUrl'
    | 'addressBooks'
  >
>;

/** Says how an account is; open pages are told only where something else is to be seen. */
export async function keepState(tools: Tools, id: string, state: State): Promise<void> {
  await runInTransaction(tools, null, async (context) => {
    const link = await CaldavLink.findByPk(id, { transaction: context.tx, lock: true });
    if (!link) return;
    const { syncedAt, mark, readOn, ...seen } = state;
    // When it was read last changes each minute, and is nothing that anybody has to be told at once.
    await CaldavLink.update({ syncedAt, mark, readOn }, { where: { id }, transaction: context.tx });
    await link.reload({ transaction: context.tx });
    await context.write.update(link, seen);
    await context.write.event('keep calendar in step', `Calendar at ${new URL(link.url).host}`, null);
  });
}
