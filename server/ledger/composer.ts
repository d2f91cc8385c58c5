import type { About, ComposerReading } from '@emporikon/contract/ledger';
import { repeatInWords } from '@emporikon/core/calendar/repeatWords';
import { readComposerLine } from '@emporikon/core/ledger/composer';
import { requireActor, type Context } from '../commands/context';
import { requireRight } from '../commands/rights';
import type { LedgerEntry } from '../db/models/ledger';
import { Deal } from '../db/models/deals';
import { hasLines } from '../deals/lines';
import { User } from '../db/models/users';
import { invalid } from '../http/problems';
import { freeDaysFor } from '../calendar/free';
import { addTask } from '../tasks/add';
import { concerned, openDealsOf, type AllConcerned } from './concerned';
import { enter } from './write';

const NOTHING: AllConcerned = {
  personId: null,
  companyId: null,
  leadId: null,
  dealId: null,
  projectId: null,
  caseId: null,
};

/** What a line would save about a record, or about none yet, in full. */
export async function readLine(context: Context, line: string, about: About): Promise<ComposerReading> {
  const actor = requireActor(context);
  const users = await User.findAll({ where: { active: true }, transaction: context.tx });
  const all = Object.values(about).some(Boolean) ? await concerned(context, about) : NOTHING;
  const deals = all.dealId
    ? await Deal.findAll({ where: { id: all.dealId }, transaction: context.tx })
    : await openDealsOf(context, all);
  const [deal] = deals;
  const { nextMove, entry, amount, lit } = readComposerLine(line, {
    now: context.now().toISOString(),
    zone: actor.timeZone,
    userId: actor.id,
    currency: deal?.currency ?? context.house.currency,
    users: users.map(({ id, name, email }) => ({ id, name, email })),
    free: await freeDaysFor(context, actor.id),
  });
  const named =
    amount &&
    deal &&
    deals.length === 1 &&
    // Where there are lines, the amount is their net and not what somebody mentions.
    !(await hasLines(context, deal.id)) &&
    (amount.minor !== deal.amountMinor || amount.currency !== deal.currency);
  const isAsked = amount !== null && !all.dealId && deals.length > 1;
  return {
    dealChoices: isAsked ? deals.slice(0, 10).map(({ id, title }) => ({ id, name: title })) : [],
    nextMove: nextMove && {
      ...nextMove,
      repeatWords: nextMove.repeat && repeatInWords(nextMove.repeat),
      assignee: users.find((user) => user.id === nextMove.assigneeId)?.name ?? actor.name,
    },
    entry,
    dealAmount: named
      ? {
          dealId: deal.id,
          title: deal.title,
          minor: amount.minor,
          currency: amount.currency,
          was: deal.amountMinor,
        }
      : null,
    lit,
  };
}

type Part = 'nextMove' | 'entry' | 'dealAmount';

/**
 * Saves the parts of a line that was read.
 * @param happened what is entered in place of what the line says happened
 */
export async function saveParts(
  context: Context,
  reading: ComposerReading,
  all: AllConcerned,
  leaveOut: readonly Part[],
  happened: ComposerReading['entry'] = reading.entry,
): Promise<{ saved: string[]; entry: LedgerEntry | null }> {
  const saved: string[] = [];
  let entry: LedgerEntry | null = null;
  if (happened && !leaveOut.includes('entry')) {
    requireRight(context, 'ledger.add');
    const { kind, side, headline, at, outcome } = happened;
    entry = await enter(context, { ...(at ? { at: new Date(at) } : {}), side, kind, headline, outcome }, all);
    saved.push(kind);
  }
  if (reading.nextMove && !leaveOut.includes('nextMove')) {
    const { isUrgent, ...wanted } = reading.nextMove;
    await addTask(context, { ...wanted, ...(isUrgent ? { priority: 'high' } : {}) }, all);
    saved.push('next move');
  }
  if (reading.dealAmount && !leaveOut.includes('dealAmount')) {
    const deal = await Deal.findByPk(reading.dealAmount.dealId, { transaction: context.tx, lock: true });
    if (deal)
      await context.write.update(deal, {
        amountMinor: reading.dealAmount.minor,
        currency: reading.dealAmount.currency,
        updatedAt: context.now(),
      });
    saved.push('deal');
  }
  return { saved, entry };
}

/** Saves a line: what happened, what is to be done next, the sum on the deal. One transaction, one undo. */
export async function saveLine(
  context: Context,
  line: string,
  about: About,
  leaveOut: readonly Part[],
): Promise<{ saved: string[]; eventId: string | null }> {
  const actor = requireActor(context);
  const reading = await readLine(context, line, about);
  const { saved } = await saveParts(context, reading, await concerned(context, about), leaveOut);
  if (!saved.length)
    throw invalid('Nothing in this line would be saved.', { fields: { line: 'says nothing to save' } });
  return { saved, eventId: await context.write.event('compose', `Wrote “${line.slice(0, 60)}”`, actor.id) };
}
