import { isOfMany } from '../commands/followers';
import { QueryTypes, type Transaction } from 'sequelize';
import { pastSight } from '../commands/sight';
import type { Followed, Tools, Within } from '../commands/types';
import { rowOf } from '../commands/writer';
import { Task } from '../db/models/tasks';
import { Letter } from '../db/models/letters';
import { letterIdsOf } from './tellLetters';
import { noticesOf } from './tell';
import type { Colleague, Told } from './told';
import { writeNotices } from './write';

const CONCERNS = new Set([
  'ledger_entries',
  'tasks',
  'task_messages',
  'task_people',
  'letters',
  'letter_recipients',
  'people',
  'companies',
  'leads',
  'deals',
  'cases',
  'projects',
]);
/** Of one change nobody is told more than so much; the rest is one line that says how much. */
const MOST_EACH = 20;

const colleaguesOf = (tools: Tools, tx: Transaction): Promise<Colleague[]> =>
  tools.sequelize.query<Colleague>(
    'SELECT id, name, email, time_zone AS "timeZone" FROM users WHERE active',
    { type: QueryTypes.SELECT, transaction: tx },
  );

/** What is not told row by row: whoever imports or changes many says so themselves, once. */
const isToldOnce = (command: string): boolean => command.startsWith('import') || isOfMany(command);

/** Of many of one kind for one colleague the first, and how many more there are. */
function shorten(told: readonly Told[]): Told[] {
  const kept: Told[] = [];
  const counts = new Map<string, number>();
  for (const one of told) {
    const key = `${one.userId} ${one.kind}`;
    const count = (counts.get(key) ?? 0) + 1;
    counts.set(key, count);
    if (count <= MOST_EACH) kept.push(one);
  }
  for (const [key, count] of counts) {
    const [userId = '', ...kind] = key.split(' ');
    if (count > MOST_EACH)
      kept.push({ userId, kind: kind.join(' ') as Told['kind'], title: `${count - MOST_EACH} more` });
  }
  return kept;
}

/** The tasks that something was said about, or that somebody is asked to come to. */
async function messagedTasks(
  tx: Transaction,
  changes: Followed['changes'],
): Promise<Map<string, Record<string, unknown>>> {
  const ids = changes.flatMap(({ table, after }) =>
    (table === 'task_messages' || table === 'task_people') && typeof after?.taskId === 'string'
      ? [after.taskId]
      : [],
  );
  if (!ids.length) return new Map();
  const tasks = await Task.findAll({ where: { id: ids }, transaction: tx });
  return new Map(tasks.map((task) => [task.id, rowOf(task)]));
}

/** Tells colleagues what a change has to do with them; a change that is taken back is no longer told. */
export const followNotices: Within = async (tools, tx, event) => {
  const asked = { sequelize: tools.sequelize, tx };
  if (event.undoes)
    return pastSight(asked, async () => {
      await tools.sequelize.query('DELETE FROM notices WHERE event_id = :undone', {
        replacements: { undone: event.undoes },
        transaction: tx,
      });
    });
  if (!event.changes.some(({ table }) => CONCERNS.has(table)) || isToldOnce(event.command)) return;
  const messaged = await messagedTasks(tx, event.changes);
  const letterIds = letterIdsOf(event.changes);
  const letters = letterIds.length
    ? await Letter.findAll({
        where: { id: letterIds },
        attributes: ['id', 'authorId', 'subject'],
        transaction: tx,
      })
    : [];
  const told = shorten(
    noticesOf(
      event,
      await colleaguesOf(tools, tx),
      messaged,
      new Map(letters.map((letter) => [letter.id, letter])),
    ),
  );
  if (told.length) await pastSight(asked, () => writeNotices(tools, tx, event, told));
};
