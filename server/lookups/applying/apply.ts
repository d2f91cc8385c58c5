import { FACT_NAMES, type FoundFact } from '@emporikon/core/lookups/facts';
import { isAboutThem, sameForm, settleAnswer, type Outcome } from '@emporikon/core/lookups/settle';
import { trusted } from '@emporikon/core/lookups/track';
import type { Context } from '../../commands/context';
import { ClaimRow } from '../../db/models/captures';
import type { LookUp } from '../../db/models/lookUps';
import { NAMED_BY_DOMAIN } from './derive';
import { heldOf, knownOf, type LookUpRecord } from '../planning/known';
import type { PlanningData } from '../planning/plan';
import { writeFact } from './write';

export interface Applied {
  filled: string[];
  suggested: string[];
}

/** What an answer does to a field, given what stands there and what was refused or is proposed already. */
function outcomeOf(looked: LookUpRecord, fact: FoundFact, fillBlanks: boolean): Outcome {
  const own = looked.claims.filter(
    (claim) =>
      claim.field === fact.field &&
      (fact.about === 'person'
        ? claim.personId === looked.person?.id
        : claim.companyId === looked.company?.id),
  );
  const form = sameForm(fact.field, fact.value);
  const has = (fate: ClaimRow['fate']): boolean =>
    own.some((one) => one.fate === fate && sameForm(fact.field, one.value) === form);
  if (has('proposed')) return 'drop';
  const contacts = looked.contacts.filter(
    (contact) => contact.kind === fact.field && fact.about === 'person',
  );
  if (contacts.some((contact) => sameForm(fact.field, contact.normalized) === form)) return 'agree';
  const held = heldOf(looked, fact.about, fact.field);
  const isGuess = held?.claim?.source === NAMED_BY_DOMAIN && !held.claim.byHand;
  const outcome = settleAnswer(fact.field, fact.value, held?.value ?? null, {
    fillBlanks,
    refused: has('rejected') ? [form] : [],
  });
  return outcome === 'suggest' && isGuess && fillBlanks ? 'fill' : outcome;
}

const FATES = { fill: 'current', suggest: 'proposed', agree: 'superseded' } as const;

/** Puts one answer onto its record, as a claim with its source. @returns what became of it */
async function applyFact(
  context: Context,
  looked: LookUpRecord,
  label: string,
  lookUp: LookUp,
  fact: FoundFact,
  confidence: number,
  fillBlanks: boolean,
): Promise<Outcome> {
  const outcome = outcomeOf(looked, fact, fillBlanks);
  if (outcome === 'drop') return outcome;
  const held = heldOf(looked, fact.about, fact.field);
  if (outcome === 'fill' && !(await writeFact(context, fact.about, looked, fact.field, fact.value)))
    return 'drop';
  if (outcome === 'fill' && held?.claim) await context.write.update(held.claim, { fate: 'superseded' });
  if (outcome === 'agree' && held?.claim?.lookUpId) await context.write.update(held.claim, { kept: true });
  const claim = await context.write.insert(ClaimRow, {
    id: context.newId(),
    captureId: null,
    personId: fact.about === 'person' ? (looked.person?.id ?? null) : null,
    companyId: fact.about === 'company' ? (looked.company?.id ?? null) : null,
    field: fact.field,
    value: fact.value,
    normalized: fact.field === 'email' || fact.field === 'phone' ? fact.value : null,
    type: null,
    confidence,
    span: null,
    source: label,
    fate: FATES[outcome],
    lookUpId: lookUp.id,
    kept: outcome === 'agree' ? true : null,
    createdAt: context.now(),
  });
  looked.claims.unshift(claim);
  return outcome;
}

/**
 * Puts an answer onto the records: blanks are filled where the house wants that, what differs is put beside it, and what
 * is about somebody else is dropped. Answers of the same field go in the order of how far they are believed.
 */
export async function applyAnswer(
  context: Context,
  looked: LookUpRecord,
  lookUp: LookUp,
  ground: PlanningData,
): Promise<Applied> {
  const applied: Applied = { filled: [], suggested: [] };
  const { answer } = lookUp;
  if (!answer) return applied;
  const source = context.outside.lookUps.find((one) => one.key === lookUp.source);
  const theirs = isAboutThem(knownOf(looked), answer);
  const believed = answer.facts
    .filter((fact) => (fact.about === 'person' ? looked.person : looked.company))
    .map((fact) => ({
      fact,
      confidence: trusted(
        fact.confidence * theirs,
        ground.tracks.kept(lookUp.source, fact.about, fact.field),
      ),
    }))
    .filter(() => theirs > 0)
    .sort((a, b) => b.confidence - a.confidence);
  for (const { fact, confidence } of believed) {
    const outcome = await applyFact(
      context,
      looked,
      source?.label ?? lookUp.source,
      lookUp,
      fact,
      confidence,
      ground.rules.fillBlanks,
    );
    const name = FACT_NAMES[fact.field];
    if (outcome === 'fill') applied.filled.push(name);
    if (outcome === 'suggest') applied.suggested.push(name);
  }
  return applied;
}
