import { runInTransaction, type Actor, type Tools } from '@emporikon/server/commands/context';
import { fileCapture } from '@emporikon/server/captures/filing';
import { readMail } from '@emporikon/server/captures/arrivals';
import { storeCapture } from '@emporikon/server/captures/store';
import { saveLine } from '@emporikon/server/ledger/composer';
import { User } from '@emporikon/server/db/models/users';
import { DateTime } from 'luxon';
import { officeTime } from './clock';
import { loadCalendar } from './calendar';
import { loadChannels } from './channels';
import { loadConsents } from './consents';
import { loadDeals } from './deals';
import { loadDoubles } from './doubles';
import { loadLeads } from './leads';
import { FILED, rawMail, WAITING } from './mail';
import { loadAfterDeals } from './afterDeals';
import { loadLetters } from './letters';
import { loadFields } from './fields';
import { loadFiles } from './files';
import { loadMeetings } from './meetings';
import { loadSales } from './sales';
import { loadTasks } from './tasks';
import { loadTeam } from './team';

/** Ids that are the same each time the demo is loaded. */
function countingIds(): () => string {
  let next = 0;
  return () => `00000000-0000-4000-8000-${(++next).toString(16).padStart(12, '0')}`;
}

/**
 * Loads the made-up world of Wharfside Cargo Cycles, through the program's own commands, with dates set back from now.
 * @returns false when there are users already: nothing is touched then
 */
export async function loadDemo(live: Tools): Promise<boolean> {
  if ((await User.count()) > 0) return false;
  const now = DateTime.fromJSDate(live.now(), { zone: 'Europe/London' });
  const newId = countingIds();
  const at = (hoursAgo: number): Tools => ({
    ...live,
    newId,
    now: () => (hoursAgo ? officeTime(now.minus({ hours: hoursAgo })) : now).toJSDate(),
  });
  const users = await runInTransaction(at(30 * 24), null, loadTeam);
  const actors = new Map<string, Actor>(
    [...users].map(([name, user]) => [
      name,
      { id: user.id, name, email: user.email, role: user.role, timeZone: user.timeZone },
    ]),
  );
  await loadDeals(at(0), actors);
  await loadLeads(at(0), actors);
  await loadSales(at(0), actors);
  const pell = actors.get('Pell Garrick') ?? null;
  const filed = await readMail(at(FILED.hoursAgo), pell, rawMail(FILED, now));
  const { person } = await runInTransaction(at(FILED.hoursAgo), pell, async (context) => {
    const { capture } = await storeCapture(context, filed, { by: 'post' });
    return fileCapture(context, capture.id, {});
  });
  await runInTransaction(at(4 * 24), pell, (context) =>
    saveLine(
      context,
      'Called her, wants to start in March. Budget about 40k. Her brother signs',
      { personId: person.id },
      [],
    ),
  );
  await runInTransaction(at(3 * 24), actors.get('Mara Quill') ?? null, (context) =>
    saveLine(context, 'Works half a day on Fridays. Met us at the Utrecht fair', { personId: person.id }, []),
  );
  await loadChannels(at, actors);
  await loadDoubles(at, actors);
  for (const mail of WAITING) {
    const arrival = await readMail(at(mail.hoursAgo), null, rawMail(mail, now));
    await runInTransaction(at(mail.hoursAgo), null, (context) =>
      storeCapture(context, arrival, { by: 'post' }),
    );
  }
  const actorOf = (name: string): Actor => {
    const actor = actors.get(name);
    if (!actor) throw new Error(`nobody is called ${name}`);
    return actor;
  };
  await loadTasks(at, actorOf, person.id);
  await loadMeetings(at, actorOf, person.id);
  await loadCalendar(at, actorOf('Pell Garrick'));
  await loadLetters(at, actors);
  await loadFiles(at, actorOf, person.id);
  await loadAfterDeals(at, actorOf);
  await loadFields(at, actorOf);
  await loadConsents(at, actorOf);
  return true;
}
