import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import type { After, Followed } from '../commands/types';
import { Capture } from '../db/models/captures';
import { LedgerEntry, LedgerLink, type Change } from '../db/models/ledger';
import { Letter, LetterRecipient } from '../db/models/letters';
import { Task } from '../db/models/tasks';
import { isLetterId } from './reports';

/** Kinds of entries by which somebody answers. */
const ANSWERS = new Set(['mail', 'call', 'meeting', 'visit']);

const theirs = (changes: readonly Change[]): string[] =>
  changes.flatMap(({ table, id, before, after }) =>
    table === 'ledger_entries' && !before && after?.side === 'theirs' && ANSWERS.has(String(after.kind))
      ? [id]
      : [],
  );

/** Notes on the letters that a message answers, by the Message-IDs it refers to, who answered. */
async function noteAnswer(context: Context, entry: LedgerEntry, capture: Capture): Promise<void> {
  const ids = capture.message.references.filter(isLetterId);
  if (!ids.length) return;
  const letters = await Letter.findAll({
    where: { messageId: { [Op.in]: ids } },
    attributes: ['id'],
    transaction: context.tx,
  });
  const from = capture.message.from?.address.toLowerCase() ?? '';
  const rows = await LetterRecipient.findAll({
    where: { letterId: letters.map(({ id }) => id), address: from, answeredAt: null },
    transaction: context.tx,
  });
  for (const row of rows) await context.write.update(row, { answeredAt: entry.at });
}

/** Drops what was to be done only if they did not answer. */
async function dropFollowUps(context: Context, entry: LedgerEntry): Promise<string[]> {
  const people = (
    await LedgerLink.findAll({ where: { entryId: entry.id }, transaction: context.tx })
  ).flatMap(({ personId }) => personId ?? []);
  if (!people.length) return [];
  const letterIds = (
    await LetterRecipient.findAll({
      where: { personId: people },
      attributes: ['letterId'],
      transaction: context.tx,
    })
  ).map(({ letterId }) => letterId);
  const letters = await Letter.findAll({
    where: {
      id: letterIds,
      followUpTaskId: { [Op.ne]: null },
      sentAt: { [Op.lt]: entry.at },
    },
    transaction: context.tx,
  });
  const dropped: string[] = [];
  for (const letter of letters) {
    if (!letter.followUp?.unlessAnswered || !letter.followUpTaskId) continue;
    const task = await Task.findOne({
      where: { id: letter.followUpTaskId, doneAt: null },
      transaction: context.tx,
      lock: true,
    });
    if (!task) continue;
    await context.write.update(letter, { followUpTaskId: null });
    await context.write.remove(task);
    dropped.push(task.title);
  }
  return dropped;
}

async function follow(context: Context, { changes }: Followed): Promise<void> {
  const dropped: string[] = [];
  for (const id of theirs(changes)) {
    const entry = await LedgerEntry.findByPk(id, { transaction: context.tx });
    if (!entry) continue;
    const capture = entry.captureId
      ? await Capture.findByPk(entry.captureId, { attributes: { exclude: ['raw'] }, transaction: context.tx })
      : null;
    // What a machine sent by itself is no answer.
    if (capture?.message.nature) continue;
    if (capture) await noteAnswer(context, entry, capture);
    dropped.push(...(await dropFollowUps(context, entry)));
  }
  await context.write.event(
    'note answer',
    dropped.length
      ? `They answered; no longer needed: ${dropped.join(', ').slice(0, 120)}`
      : 'They answered a letter',
    null,
  );
}

/** Somebody writes, calls or is met: letters to them are answered, and what was to follow only without an answer is dropped. */
export const noteAnswers: After = {
  name: 'note answers to letters',
  concerns: ({ changes }) => theirs(changes).length > 0,
  follow,
};
