import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { CaldavLink } from '@emporikon/server/db/models/caldav';
import { sealPassword } from '@emporikon/server/mailboxes/seal';

/** Pell keeps a calendar elsewhere, where the stand-in of one is open. */
export async function loadCalendar(at: (hoursAgo: number) => Tools, pell: Actor): Promise<void> {
  const url = process.env.CALENDAR_URL;
  if (!url) return;
  await runInTransaction(at(72), pell, async ({ write, newId, now, outside }) => {
    await write.insert(CaldavLink, {
      ...{ id: newId(), userId: pell.id, url, username: 'pell' },
      sealed: sealPassword(outside.sealKey, 'any-password-will-do'),
      createdAt: now(),
    });
    await write.event('add calendar', 'Keeps in step with the daybook', pell.id);
  });
}
