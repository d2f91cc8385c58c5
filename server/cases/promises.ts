import type { Parsed } from '@emporikon/contract';
import type { Urgency } from '@emporikon/core/lifecycle/cases';
import { workingHoursOn } from '@emporikon/core/calendar/workingHours';
import { DateTime } from 'luxon';
import { freeDaysFor } from '../calendar/free';
import { requireActor, type Context } from '../commands/context';
import { CasePromise } from '../db/models/afterDeals';
import { User } from '../db/models/users';
import { invalid, notFound } from '../http/problems';

/** By when a case is answered first and solved, on the working hours of whoever looks after it. */
export async function promisedTimes(
  context: Context,
  { urgency, ownerId, openedAt }: { urgency: Urgency; ownerId: string; openedAt: Date },
): Promise<{ answerBy: Date; solveBy: Date }> {
  const promise = await CasePromise.findOne({
    where: { urgency },
    rejectOnEmpty: true,
    transaction: context.tx,
  });
  const owner = await User.findByPk(ownerId, { rejectOnEmpty: true, transaction: context.tx });
  const free = await freeDaysFor(context, ownerId);
  const from = DateTime.fromJSDate(openedAt, { zone: owner.timeZone });
  const after = (hours: number): Date =>
    workingHoursOn(from, hours, { from: owner.worksFrom, until: owner.worksUntil }, free).toJSDate();
  return { answerBy: after(promise.answerHours), solveBy: after(promise.solveHours) };
}

const ORDER: readonly Urgency[] = ['urgent', 'normal', 'low'];
export const listPromises = async (context: Context): Promise<CasePromise[]> =>
  (await CasePromise.findAll({ transaction: context.tx })).sort(
    (a, b) => ORDER.indexOf(a.urgency) - ORDER.indexOf(b.urgency),
  );

/** What is promised from now on; cases that are open keep what they were promised. */
export async function changePromise(
  context: Context,
  id: string,
  { version, ...patch }: Parsed<'PATCH /api/case-promises/:id', 'body'>,
): Promise<{ eventId: string | null }> {
  const promise = await CasePromise.findByPk(id, { transaction: context.tx, lock: true });
  if (!promise) throw notFound('There is no such promise.');
  if ((patch.answerHours ?? promise.answerHours) > (patch.solveHours ?? promise.solveHours))
    throw invalid('A case is answered before it is solved.', {
      fields: { answerHours: 'is longer than it may take to solve it' },
    });
  await context.write.update(promise, patch, version);
  return {
    eventId: await context.write.event(
      'change case promise',
      `Changed what is promised for ${promise.urgency} cases`,
      requireActor(context).id,
    ),
  };
}
