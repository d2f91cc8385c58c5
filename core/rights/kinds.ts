import type { Step } from '../bulk/types';
import type { RecordKind } from '../query/types';
import type { Action, RecordArea, Right } from './rights';
import { isRight } from './rights';

const AREA_OF: Readonly<Record<RecordKind, RecordArea>> = {
  person: 'people',
  company: 'companies',
  lead: 'leads',
  deal: 'deals',
  task: 'tasks',
  project: 'projects',
  case: 'projects',
  entry: 'ledger',
  capture: 'captures',
};

/** The right to do something with records of a kind. @throws Error where the records of the kind know no such action */
export function rightOn(kind: RecordKind, action: Action): Right {
  const right = `${AREA_OF[kind]}.${action}`;
  if (!isRight(right)) throw new Error(`there is no right ${right}`);
  return right;
}

/** What one step of a bulk change takes, besides the right to change many of the kind at once. */
export function rightForStep({ do: what }: Step): Right | null {
  if (what === 'erase') return 'people.delete';
  if (what === 'next move') return 'tasks.add';
  return what === 'project' ? 'projects.change' : null;
}
