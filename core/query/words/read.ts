import { countConditions, MOST_CONDITIONS, MOST_GROUPS, MOST_ORDER } from '../check';
import type { Asking, Filter, Group, Order, Query, RecordKind, Registry } from '../types';
import { bareAmount, counted, openDeals, theirCompany } from './amounts';
import { lastSpoken, lastWas, quiet, spoken, turn } from './contact';
import { bareTime, birthday, closing, made, newOnes, nextMove, otherDates, stuck } from './dated';
import { kindOf, NOUN } from './kinds';
import { owner, team } from './owners';
import { groups, order } from './shape';
import { NOTHING, State, words, type Rule, type Said, type Vocabulary } from './state';
import { readTyped } from './tokens';
import { standing, status } from './terms';
import { country, filled, flags, named, nameIs, titleContains, titleWord } from './values';

/** A question as it was read. */
export interface ReadQuestion {
  kind: RecordKind;
  /** All of them hold. */
  conditions: Filter[];
  groups: Group[];
  order: Order[];
  /** The words that were not understood, as they were typed. */
  notUnderstood: string[];
}

const RULES: readonly Rule[] = [
  groups,
  order,
  newOnes,
  theirCompany,
  openDeals,
  stuck,
  closing,
  nextMove,
  otherDates,
  birthday,
  lastWas,
  lastSpoken,
  turn,
  nameIs,
  titleContains,
  counted,
  filled,
  owner,
  team,
  spoken,
  quiet,
  made,
  flags,
  country,
  named,
  titleWord,
  standing,
  status,
  bareAmount,
  bareTime,
  (state) => (state.take(NOUN) ? NOTHING : null),
];

const OR = words('(?:or|and\\/or)');
const AND = words('(?:and|as well as|plus|,|;|&)');
const NOT = words(
  "(?:neither|nor|but not|and not|not|never|except(?: for)?|excluding|other than|isn't|aren't|is not|are not|without|no)",
);
const SKIPPED = words(
  '(?:please|show(?: me)?|list|find(?: me)?|give me|get(?: me)?|tell me|see|how many|the number of|number of|count of|(?:what|who|where).s|which|who|whom|whose|that|what|where|when|the|an?|all|every|each|any|some|those|these|them|their|there|of|in|with|for|to|on|at|from|only|just|but|yet|still|currently|now|right now|also|is|are|was|were|be|been|being|have|has|had|having|do|does|did|we|i|us|our|you|it|its|as|ones?|records?|things?|can|could|should|would|will|want|need|so|far|than|marked)',
);
const FUTURE = new Set(['expectedClose', 'nextMoveDue', 'due', 'birthday', 'parkedUntil']);
const isWhen = (value: unknown): boolean =>
  typeof value === 'object' && value !== null && !Array.isArray(value);
const LISTS = new Set(['is', 'hasAny']);

class Reading {
  readonly conditions: Filter[] = [];
  readonly groups: Group[] = [];
  readonly order: Order[] = [];
  readonly missed: [start: number, end: number][] = [];
  private joint: 'and' | 'or' = 'and';
  private hasJoint = false;
  private negatedFrom: number | null = null;
  private last: { field: string; isNegated: boolean } | null = null;

  constructor(
    private readonly state: State,
    /** Whether the word at a place was typed with a capital. */
    private readonly isCapital: (at: number) => boolean,
  ) {}

  run(): void {
    const { state } = this;
    while (state.at < state.flat.length) {
      const start = state.at;
      if (state.readBefore?.from === start) {
        state.at = state.readBefore.to;
        continue;
      }
      state.said = this.conditions;
      state.goesOn = this.hasJoint ? (this.last?.field ?? null) : null;
      if (this.moreTimes()) continue;
      const said = this.rule();
      if (said && this.isTooMany(said)) this.leaveOut(start);
      else if (said) this.add(said);
      else if (this.joins()) continue;
      else if (this.negates()) this.negatedFrom ??= start;
      else if (!state.take(SKIPPED)) this.miss(start);
    }
    if (this.negatedFrom !== null) this.missed.push([this.negatedFrom, this.negatedFrom + 3]);
  }

  /** "In December or January", "since June but not this month": another time of the same field. */
  private moreTimes(): boolean {
    const previous = this.conditions.at(-1);
    const goesOn = (this.joint === 'or' && this.hasJoint) || this.negatedFrom !== null;
    if (!goesOn || !previous) return false;
    const last = 'any' in previous ? previous.any.at(-1) : previous;
    if (!last || !('field' in last) || !isWhen(last.value)) return false;
    const start = this.state.at;
    const when = this.state.when(FUTURE.has(last.field) ? 'future' : 'past');
    const isYearly = this.state.spec.fields.get(last.field)?.type === 'yearly';
    if (when && isYearly && when.op !== 'in') {
      this.state.at = start;
      return false;
    }
    if (when) this.add({ what: 'condition', filter: { field: last.field, op: when.op, value: when.value } });
    return when !== null;
  }

  private rule(): Said | null {
    const { state } = this;
    for (const rule of RULES) {
      const start = state.at;
      const said = rule(state);
      if (said && state.at > start) return said;
      state.at = start;
    }
    return null;
  }

  private joins(): boolean {
    if (this.state.take(OR)) this.joint = 'or';
    else if (!this.state.take(AND)) return false;
    this.hasJoint = true;
    return true;
  }
  private negates(): boolean {
    return this.state.take(NOT) !== null;
  }

  private miss(start: number): void {
    const { state } = this;
    let space = state.flat.indexOf(' ', start);
    // Words with capitals that follow one that is not known are the rest of its name.
    while (space >= 0 && this.isCapital(start) && this.isCapital(space + 1))
      space = state.flat.indexOf(' ', space + 1);
    state.at = space < 0 ? state.flat.length : space + 1;
    const from = this.negatedFrom ?? start;
    this.negatedFrom = null;
    this.missed.push([from, space < 0 ? state.flat.length : space]);
    this.last = null;
  }

  /** Says that what was just read is left out, with the "not" before it. */
  private leaveOut(start: number): void {
    const { state } = this;
    this.missed.push([this.negatedFrom ?? start, state.at - Number(state.at < state.flat.length)]);
    this.negatedFrom = null;
    this.last = null;
  }

  /** Whether a question could not be asked any more with this in it. */
  private isTooMany(said: Said): boolean {
    if (said.what === 'group') return this.groups.length + said.groups.length > MOST_GROUPS;
    if (said.what === 'order') return this.order.length + said.order.length > MOST_ORDER;
    // What is negated, or one of several, has another about it.
    return (
      said.what === 'condition' &&
      countConditions({ all: this.conditions }) + countConditions(said.filter) + 2 > MOST_CONDITIONS
    );
  }

  private add(said: Said): void {
    if (said.what === 'group') this.groups.push(...said.groups);
    if (said.what === 'order') this.order.push(...said.order);
    if (said.what === 'condition') this.addCondition(said);
    [this.joint, this.hasJoint] = ['and', false];
  }

  private addCondition({ filter, field }: Extract<Said, { what: 'condition' }>): void {
    const isNegated = this.negatedFrom !== null;
    const { last } = this;
    this.negatedFrom = null;
    const previous = this.conditions.at(-1);
    // "In Portugal or Ireland", "prospects and customers": a list of values of one field.
    const isMore =
      previous !== undefined && field !== undefined && last?.field === field && isNegated <= last.isNegated;
    if (isMore && this.extend(previous, filter)) return;
    if (
      previous &&
      this.hasJoint &&
      last?.field === `not ${field ?? ''}` &&
      this.extend(previous, { ...filter, op: 'isNot' } as Filter)
    )
      return;
    const meant: Filter = isNegated ? { not: filter } : filter;
    if (this.joint === 'or' && previous)
      this.conditions.splice(-1, 1, { any: [...('any' in previous ? previous.any : [previous]), meant] });
    else this.conditions.push(meant);
    this.last = field === undefined ? null : { field, isNegated };
  }

  private extend(previous: Filter, filter: Filter): boolean {
    const inner = 'not' in previous ? previous.not : previous;
    if (!('field' in inner) || !('field' in filter) || inner.field !== filter.field || inner.op !== filter.op)
      return false;
    if (!LISTS.has(inner.op) && inner.op !== 'isNot') return false;
    const values = (value: typeof inner.value): string[] => (Array.isArray(value) ? (value as string[]) : []);
    const all = [...new Set([...values(inner.value), ...values(filter.value)])];
    const op = inner.op === 'hasAny' && this.joint === 'and' ? 'hasAll' : inner.op;
    const made: Filter = { ...inner, op, value: all };
    this.conditions.splice(-1, 1, 'not' in previous ? { not: made } : made);
    return true;
  }
}

/**
 * Reads a question in plain English into conditions, groups and an order. What it does not understand it says, and leaves out.
 * Reading conventions: `docs/queries.md`.
 * @param hint the kind of record that is on the screen, for a question that names none
 */
export function readQuestion(
  text: string,
  {
    registry,
    vocabulary,
    asking,
    hint,
  }: { registry: Registry; vocabulary: Vocabulary; asking: Asking; hint?: RecordKind | undefined },
): ReadQuestion {
  const { flat, places } = readTyped(text);
  const kind = kindOf(flat) ?? hint ?? 'person';
  const isCapital = (at: number): boolean => /\p{Lu}/u.test(text[places[at] ?? -1] ?? '');
  const reading = new Reading(new State(flat, registry[kind], registry, vocabulary, asking), isCapital);
  reading.run();
  const missed = reading.missed.reduce<[number, number][]>((all, [from, to]) => {
    const before = all.at(-1);
    if (before && from <= before[1] + 1) before[1] = to;
    else all.push([from, to]);
    return all;
  }, []);
  const end = (at: number): number => (places[at - 1] ?? text.length - 1) + 1;
  return {
    kind,
    conditions: reading.conditions,
    groups: reading.groups,
    order: reading.order,
    notUnderstood: missed.map(([from, to]) => text.slice(places[from] ?? 0, end(to)).trim()),
  };
}

/** A question that was read, as a query. */
export const asQuery = ({ kind, conditions, groups: grouped, order: ordered }: ReadQuestion): Query => ({
  kind,
  filter: { all: conditions },
  groups: grouped,
  order: ordered,
});
