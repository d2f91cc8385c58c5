import type { Outcome } from '@emporikon/contract/ledger';
import type { z } from 'zod';
import type { Context } from '../commands/context';
import { conflict } from '../http/problems';
import { concerned } from '../ledger/concerned';
import { readLine, saveParts } from '../ledger/composer';
import { peopleOf } from './people';
import { changeTask, linkPeople, loadTask } from '../tasks/change';

/**
 * What came of a meeting, a call or a visit, in plain words: it is entered where and when it took place, with everybody who
 * came; what is to be done next is set; and the task is done. One transaction, one undo.
 * @throws 409 where it is done already
 */
export async function enterOutcome(
  context: Context,
  id: string,
  words: string,
  outcome: z.infer<typeof Outcome>,
  leaveOut: readonly ('nextMove' | 'dealAmount')[],
): Promise<{ saved: string[]; eventId: string | null }> {
  const task = await loadTask(context, id);
  if (task.doneAt) throw conflict('What came of this was entered already. Change the entry instead.');
  const { companyId, leadId, dealId, projectId = null, caseId = null } = task;
  const people = await peopleOf(context, task.id);
  const personId = task.personId ?? people.find((one) => one.personId)?.personId ?? null;
  const all = { personId, companyId, leadId, dealId, projectId, caseId };
  const about = Object.fromEntries(Object.entries(all).filter(([, one]) => one !== null));
  const reading = await readLine(context, words, about);
  const { kind } = task;
  const isTalk = kind === 'call' || kind === 'meeting' || kind === 'visit';
  const { saved, entry } = await saveParts(
    context,
    reading,
    Object.keys(about).length ? await concerned(context, about) : all,
    leaveOut,
    {
      kind: isTalk ? kind : 'note',
      side: isTalk ? 'ours' : 'within',
      headline: reading.entry?.headline ?? words,
      at: (task.dueAt < context.now() ? task.dueAt : context.now()).toISOString(),
      outcome: isTalk ? outcome : null,
    },
  );
  if (entry) await linkPeople(context, task.id, entry);
  return { saved, eventId: await changeTask(context, task, { done: true }, undefined, true) };
}
