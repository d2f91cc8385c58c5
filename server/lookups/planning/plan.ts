import type { FactField, Subject } from '@emporikon/core/lookups/facts';
import { planLookUps, type Offer, type PlannedStep } from '@emporikon/core/lookups/plan';
import type { Context } from '../../commands/context';
import type { LookUpRules } from '../../db/models/lookUps';
import type { LookUpSourceRow } from '../../db/models/lookUps';
import type { LookUpSource } from '../../outside/lookups/source';
import { knownOf, wantedOf, wholeCompleteness, type LookUpRecord } from './known';
import { loadRules, sourceRows } from './rules';
import { loadTracks, type Tracks } from '../planning/tracks';

/** What planning needs besides the person: the sources that may be asked, how they did, and the house's rules. */
export interface PlanningData {
  sources: LookUpSource[];
  tracks: Tracks;
  rules: LookUpRules;
}

const isResting = (row: LookUpSourceRow, now: Date): boolean =>
  !row.active || (row.openUntil !== null && row.openUntil > now);

/** The sources that are on and not resting, with how they did so far. */
export async function loadPlanningData(context: Context): Promise<PlanningData> {
  const rows = await sourceRows(context);
  const resting = new Set(rows.filter((row) => isResting(row, context.now())).map((row) => row.key));
  return {
    sources: context.outside.lookUps.filter((one) => !resting.has(one.key)),
    tracks: await loadTracks(context),
    rules: await loadRules(context),
  };
}

function offerOf(source: LookUpSource, looked: LookUpRecord, { tracks }: PlanningData): Offer | null {
  const known = knownOf(looked);
  const now = source.question(known) !== null;
  // What may become known first opens the question.
  const later =
    !now &&
    source.needs?.field === 'domain' &&
    source.question({ ...known, domain: 'unknown.example' }) !== null;
  if (!now && !later) return null;
  return {
    source: source.key,
    label: source.label,
    price: source.price,
    charges: source.charges,
    needs: now ? null : source.needs,
    tells: source.tells.map(({ about, field }: { about: Subject; field: FactField }) => ({
      about,
      field,
      coverage: tracks.coverage(source, about, field),
      accuracy: tracks.accuracy(source, about, field),
    })),
  };
}

/** Which sources to ask about somebody, in which order and why; those asked already are left out. */
export function planFor(
  looked: LookUpRecord,
  ground: PlanningData,
  asked: ReadonlySet<string> = new Set(),
): PlannedStep[] {
  const offers = ground.sources
    .filter((source) => !asked.has(source.key))
    .flatMap((source) => offerOf(source, looked, ground) ?? []);
  return planLookUps(wantedOf(looked), offers, {
    pointWorth: ground.rules.pointWorth,
    enough: ground.rules.enough,
    completeness: wholeCompleteness(looked),
  });
}
