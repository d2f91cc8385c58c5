import { moveDeal } from '../lifecycle/deals';
import { isOpenLead, statusProblem, type LeadStatus } from '../lifecycle/statuses';
import { BUILT_IN_TERMS, type TermList } from '../lifecycle/terms';
import { sightWords } from './describe';
import type { Addition, BulkRecord, Named, Step, Verdict } from './types';

/** What one step comes to for one record; nothing where it is so already. */
interface Effect {
  patch?: Readonly<Record<string, unknown>>;
  addition?: Addition;
  leaves?: string;
  erases?: true;
  said: string;
}
type Judged = Effect | { why: string } | null;
type Judge<Do extends Step['do']> = (
  record: BulkRecord,
  step: Extract<Step, { do: Do }>,
  named: Named,
) => Judged;

const sameTag = (one: string, other: string): boolean => one.toLowerCase() === other.toLowerCase();
const without = (tags: readonly string[], gone: readonly string[]): string[] =>
  tags.filter((tag) => !gone.some((one) => sameTag(one, tag)));
const quoted = (tags: readonly string[]): string => tags.map((tag) => `“${tag}”`).join(', ');

/** The columns of a record that hold a term of each list, and what that is called. */
const TERMS = {
  standing: ['standing', 'standingTerm', 'Standing'],
  leadStatus: ['status', 'statusTerm', 'Status'],
  companyKind: ['kind', 'kindTerm', 'Kind'],
} as const satisfies Record<TermList, readonly [keyof BulkRecord, keyof BulkRecord, string]>;
const termOf = (record: BulkRecord, list: TermList): string => {
  const [held, own] = TERMS[list];
  return record[own] ?? record[held] ?? BUILT_IN_TERMS[list][0];
};
const GONE = { why: 'What it is to be is no longer on the list.' };

function becomeTerm(record: BulkRecord, list: TermList, to: string, { term }: Named): Judged {
  const from = termOf(record, list);
  if (from === to) return null;
  const next = term(to);
  if (!next) return GONE;
  const [held, own, label] = TERMS[list];
  const patch = { [held]: next.countsAs, [own]: next.own };
  return { patch, said: `${label}: ${term(from)?.name ?? from} → ${next.name}` };
}

const JUDGES: { [Do in Step['do']]: Judge<Do> } = {
  owner: (record, { to }, { called }) => {
    if (record.ownerId === to) return null;
    if (record.status === 'converted')
      return { why: 'The lead is converted; its deal has an owner of its own.' };
    const named = (id: string | null): string => (id ? called(id) : 'nobody');
    return { patch: { ownerId: to }, said: `Owner: ${named(record.ownerId)} → ${named(to)}` };
  },
  standing: (record, { to }, named) => becomeTerm(record, 'standing', to, named),
  kind: (record, { to }, named) => becomeTerm(record, 'companyKind', to, named),
  reterm: (record, { from, to }, named) => {
    const list = (Object.keys(TERMS) as TermList[]).find((each) => record[TERMS[each][0]] !== undefined);
    return list && termOf(record, list) === from ? becomeTerm(record, list, to, named) : null;
  },
  status: (record, { to, parkedUntil = null, dropReason = null }, { now, term }) => {
    const { status: from = 'new', parkedFrom = 'working' } = record;
    const next = term(to);
    if (!next) return GONE;
    const status = next.countsAs as LeadStatus;
    const was = termOf(record, 'leadStatus');
    if (was === to && (status !== 'parked' || record.parkedUntil === parkedUntil)) return null;
    const problem = statusProblem(from, status, { parkedUntil, dropReason });
    if (problem) return { why: problem };
    const comesBackTo = from === 'parked' ? parkedFrom : isOpenLead(from) ? from : 'working';
    const patch = {
      status,
      statusTerm: next.own,
      ...(was === to ? {} : { statusSince: now }),
      parkedUntil: status === 'parked' ? parkedUntil : null,
      parkedFrom: status === 'parked' ? comesBackTo : null,
      dropReason: status === 'dropped' ? dropReason : null,
    };
    const said =
      was === to ? `Parked until ${parkedUntil ?? ''}` : `Status: ${term(was)?.name ?? was} → ${next.name}`;
    return { patch, said };
  },
  stage: (record, { to }, { stage, called, now }) => {
    const { stageId = '', probability = 0, probabilityByHand = false } = record;
    if (stageId === to) return null;
    const [from, next] = [stage(stageId), stage(to)];
    if (!from || !next) return { why: 'Its stage is gone.' };
    if (from.kind !== 'open') return { why: 'The deal is closed.' };
    if (from.pipelineId !== next.pipelineId) return { why: 'The deal is in another pipeline.' };
    const moved = moveDeal(
      { stageId, probability, probabilityByHand },
      { id: to, probability: next.probability },
    );
    return { patch: { ...moved, stageSince: now }, said: `Stage: ${called(stageId)} → ${called(to)}` };
  },
  source: ({ source = '' }, { to }) =>
    source === to ? null : { patch: { source: to }, said: `Source: ${source} → ${to}` },
  tag: ({ tags = [] }, { tags: more }) => {
    const added = without(more, tags);
    if (!added.length) return null;
    return { patch: { tags: [...tags, ...added] }, said: `Tagged ${quoted(added)}` };
  },
  untag: ({ tags = [] }, { tags: gone }) => {
    const left = without(tags, gone);
    if (left.length === tags.length) return null;
    return {
      patch: { tags: left },
      said: `Tag removed: ${quoted(tags.filter((tag) => !left.includes(tag)))}`,
    };
  },
  retag: ({ tags = [] }, { from, to }) => {
    if (!tags.includes(from)) return null;
    const isThere = to !== null && tags.some((tag) => tag !== from && sameTag(tag, to));
    const left = tags.flatMap((tag) => (tag !== from ? tag : to === null || isThere ? [] : to));
    const said = to === null ? `Tag removed: “${from}”` : `Tag “${from}” → “${to}”`;
    return { patch: { tags: left }, said };
  },
  field: ({ custom = {} }, { key, to }, { label }) => {
    const { [key]: from = '', ...rest } = custom;
    if (from === to) return null;
    const patch = { custom: to ? { ...rest, [key]: to } : rest };
    return { patch, said: `${label(key)}: ${from || 'nothing'} → ${to || 'nothing'}` };
  },
  active: ({ inactiveSince = null }, { to }, { now }) => {
    if (to === (inactiveSince === null)) return null;
    return { patch: { inactiveSince: to ? null : now }, said: to ? 'Active again' : 'Inactive' };
  },
  important: ({ isImportant = false }, { to }) =>
    isImportant === to
      ? null
      : { patch: { isImportant: to }, said: to ? 'Important' : 'No longer important' },
  list: ({ on }, { to }, { called }) =>
    on?.has(to) ? null : { addition: { add: 'list', to }, said: `Put on the list ${called(to)}` },
  unlist: ({ on }, { to }, { called }) =>
    on?.has(to) ? { leaves: to, said: `Taken off the list ${called(to)}` } : null,
  project: ({ on }, { to }, { called }) =>
    on?.has(to) ? null : { addition: { add: 'project', to }, said: `Added to the project ${called(to)}` },
  'next move': (_record, { title, due }) => ({
    addition: { add: 'next move', title, due },
    said: `Next move: ${title}, ${due}`,
  }),
  visible: ({ ownerId, visibility, visibleTo = [] }, { to, only = [] }, { decidesSight, called }) => {
    if ((visibility ?? 'everybody') === to && same([...visibleTo].sort(), [...only].sort())) return null;
    if (!decidesSight(ownerId)) return { why: 'Only its owner, a manager or an admin decides who sees it.' };
    if (to === 'owner' && !ownerId) return { why: 'Nobody owns it yet.' };
    const said = `Visible to ${sightWords({ to, only }, called)}`;
    return { patch: { visibility: to, visibleTo: [...only].sort() }, said };
  },
  erase: () => ({ erases: true, said: 'Erased' }),
};

/**
 * What some steps, taken one after the other, come to for one record. Where one of them cannot be taken, none is.
 */
export function judge(record: BulkRecord, steps: readonly Step[], named: Named): Verdict {
  const effects: Effect[] = [];
  let now = record;
  for (const step of steps) {
    const judged = (JUDGES[step.do] as Judge<Step['do']>)(now, step as never, named);
    if (!judged) continue;
    if ('why' in judged) return { will: 'refuse', why: judged.why };
    effects.push(judged);
    // The step after it finds the record as this one leaves it.
    now = { ...now, ...judged.patch };
  }
  if (!effects.length) return { will: 'stay' };
  return {
    will: 'change',
    patch: Object.assign({}, ...effects.map(({ patch }) => patch)) as Record<string, unknown>,
    additions: effects.flatMap(({ addition }) => addition ?? []),
    leaves: effects.flatMap(({ leaves }) => leaves ?? []),
    erases: effects.some(({ erases }) => erases === true),
    said: effects.map(({ said }) => said).join(' · '),
  };
}

const same = (one: unknown, other: unknown): boolean =>
  JSON.stringify(one ?? null) === JSON.stringify(other ?? null);

/**
 * What a record gets back when a change is undone: the columns that still are as the change left them. Of a column that
 * holds several values (tags, an organisation's own fields) only what the change put there or took away goes back.
 * @param now, before, after the columns that the change wrote: as they stand, stood, and were left
 * @returns the columns to write, and whether something was changed since and stays
 */
export function judgeUndo(
  now: Readonly<Record<string, unknown>>,
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): { patch: Record<string, unknown>; isKept: boolean } {
  const patch: Record<string, unknown> = {};
  let isKept = false;
  for (const key of Object.keys(after)) {
    if (same(now[key], after[key])) {
      patch[key] = before[key] ?? null;
      continue;
    }
    const merged = undoWithin(now[key], before[key], after[key]);
    if (!merged || merged.isKept) isKept = true;
    if (merged && !same(merged.value, now[key])) patch[key] = merged.value;
  }
  return { patch, isKept };
}

const isPlain = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** The part of a column that is given back, where it holds several values; nothing for one that holds a single value. */
function undoWithin(
  now: unknown,
  before: unknown,
  after: unknown,
): { value: unknown; isKept: boolean } | undefined {
  if (Array.isArray(now) && Array.isArray(before) && Array.isArray(after)) {
    const added = after.filter((one) => !before.includes(one));
    const gone = before.filter((one) => !after.includes(one));
    const left = now.filter((one) => !added.includes(one));
    return { value: [...left, ...gone.filter((one) => !left.includes(one))], isKept: false };
  }
  if (!isPlain(now) || !isPlain(before) || !isPlain(after)) return undefined;
  const value = new Map(Object.entries(now));
  let isKept = false;
  for (const key of new Set([...Object.keys(before), ...Object.keys(after)])) {
    if (same(before[key], after[key])) continue;
    if (!same(now[key], after[key])) isKept = true;
    else if (before[key] === undefined) value.delete(key);
    else value.set(key, before[key]);
  }
  return { value: Object.fromEntries(value), isKept };
}
