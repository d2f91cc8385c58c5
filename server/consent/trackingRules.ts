import type { TrackingRules } from '@emporikon/contract/consent';
import { requireActor, type Context } from '../commands/context';
import { TrackingRulesRow } from '../db/models/letters';
import { stale } from '../http/problems';

const rules = ({ tx }: Context): Promise<TrackingRulesRow> =>
  TrackingRulesRow.findOne({ rejectOnEmpty: true, transaction: tx, lock: true });

export async function trackingRules(context: Context): Promise<TrackingRules> {
  const { version, opens, clicks, offCountries } = await rules(context);
  return { version, opens, clicks, offCountries };
}

/** @throws 409 where somebody changed them since */
export async function changeTrackingRules(
  context: Context,
  { version, opens, clicks, offCountries }: TrackingRules,
): Promise<{ eventId: string | null }> {
  const row = await rules(context);
  if (row.version !== version) throw stale({ ...(await trackingRules(context)) });
  await context.write.update(row, { opens, clicks, offCountries: [...new Set(offCountries)].sort() });
  return {
    eventId: await context.write.event(
      'change tracking rules',
      'Changed what is recorded of how letters are read',
      requireActor(context).id,
    ),
  };
}
