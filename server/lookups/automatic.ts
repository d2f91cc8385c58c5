import { perform, type Tools } from '../commands/context';
import { deriveFacts, enrich } from './enrich';
import { loadRules } from './rules';

/**
 * What is done by itself for somebody new, seconds after they came in: what follows from what is known, and, where the
 * house wants it, the look-ups worth their price.
 */
export async function lookUpNew(tools: Tools, personId: string): Promise<void> {
  const wish = { subject: { personId, companyId: null }, by: null, runId: null };
  const { automatic } = await perform(tools, null, loadRules);
  if (automatic && tools.outside.lookUps.length) await enrich(tools, wish);
  else await deriveFacts(tools, wish);
}
