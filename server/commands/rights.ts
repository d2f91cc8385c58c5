import {
  describeRight,
  isRight,
  mayDo,
  unseenBy,
  type Holder,
  type RecordArea,
  type RecordRight,
  type Right,
} from '@emporikon/core/rights/rights';
import { forbidden } from '../http/problems';
import type { Change, EventRow } from '../db/models/ledger';
import type { Actor, Context } from './types';

/** The tables of records of each area. */
const TABLES_OF: Readonly<Record<RecordArea, readonly string[]>> = {
  people: ['people'],
  companies: ['companies'],
  leads: ['leads'],
  deals: ['deals'],
  tasks: ['tasks'],
  projects: ['projects', 'cases'],
  ledger: ['ledger_entries'],
  captures: ['captures'],
};

/** The tables of records of which somebody sees nothing (migration 0046). */
export const unseenTables = (holder: Holder): string[] => unseenBy(holder).flatMap((area) => TABLES_OF[area]);

/** What it takes to write to a table; entries and captures come of many commands and are asked for by those. */
const WRITTEN: Readonly<Record<string, Exclude<RecordArea, 'ledger' | 'captures'>>> = {
  people: 'people',
  companies: 'companies',
  leads: 'leads',
  deals: 'deals',
  tasks: 'tasks',
  projects: 'projects',
  cases: 'projects',
};
/** Tables that hold a part of a record: whatever is done to one changes the record. */
const PARTS: Readonly<Record<string, keyof typeof WRITTEN>> = {
  contact_points: 'people',
  consents: 'people',
  employments: 'people',
  list_members: 'people',
  relations: 'people',
  lead_answers: 'leads',
  deal_lines: 'deals',
  deal_roles: 'deals',
  quotes: 'deals',
  project_people: 'projects',
};
type Write = 'add' | 'change' | 'delete';

/** The right that a write takes; null where none is named for it. */
export function rightFor(table: string, write: Write): RecordRight | null {
  const area = WRITTEN[table];
  if (area)
    return write === 'delete' && area !== 'people' && area !== 'tasks'
      ? `${area}.change`
      : (`${area}.${write}` as RecordRight);
  const part = PARTS[table];
  return part ? (`${part}.change` as RecordRight) : null;
}

/** @throws 403 where the actor's role does not give the right; the program itself needs none */
export function requireRight({ actor }: Pick<Context, 'actor'>, right: Right): void {
  if (actor && !mayDo(actor, right))
    throw forbidden(
      `Your role does not let you ${describeRight(right)}.${/\.(?:see|export)$/.test(right) ? '' : ' Nothing was saved.'}`,
    );
}

/** Whether somebody may take back what a command did, by who may give it: everybody when null. */
export const mayTakeBack = (actor: Actor, takes: EventRow['roles'] | null): boolean =>
  !takes || takes.some((one) => one === actor.role || (isRight(one) && mayDo(actor, one)));

/** What it takes to take back the change of one row; entries that stand for other changes go with those. */
export function rightToTakeBack({ table, before, after }: Change): RecordRight | null {
  if (table === 'captures') return 'captures.change';
  if (table === 'ledger_entries') return (after ?? before)?.kind === 'change' ? null : 'ledger.change';
  return rightFor(table, 'change');
}

/** Whether somebody may add what the right would change: then they may take back what they added themselves. */
export const mayAdd = (actor: Actor, right: RecordRight): boolean =>
  mayDo(actor, right.replace(/\.\w+$/, '.add') as Right);
