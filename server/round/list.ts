import type { Reply } from '@emporikon/contract';
import type { RoundCause, RoundLine } from '@emporikon/contract/round';
import type { CaseRow } from '@emporikon/contract/cases';
import type { Task as TaskView } from '@emporikon/contract/tasks';
import { minutesFor, rankCauses, type Cause } from '@emporikon/core/ledger/ranking';
import { usualWait } from '@emporikon/core/ledger/rhythm';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import { DateTime } from 'luxon';
import { Op } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { RoundLater } from '../db/models/round';
import { User } from '../db/models/users';
import { casesByIds } from '../cases/queries';
import { toHouse } from '../deals/house';
import { forbidden } from '../http/problems';
import { turnsOfPeople, type Contact } from '../ledger/turns';
import { tasksByIds } from '../tasks/queries';
import {
  dealsByIds,
  dealsOfPeople,
  findCauses,
  importantOf,
  namesOf,
  spokenWith,
  withNextMove,
  type FoundCause,
} from './causes';

const SHOWN = 100;

/** Whose round is asked for. @throws 403 where a rep asks for the team's */
async function ownersOf(context: Context, whose: 'mine' | 'team'): Promise<string[]> {
  const actor = requireActor(context);
  if (whose === 'mine') return [actor.id];
  if (actor.role === 'rep') throw forbidden('The round of the team is for managers.');
  const me = await User.findByPk(actor.id, { transaction: context.tx, rejectOnEmpty: true });
  const team = me.team && actor.role === 'manager' ? { team: me.team } : {};
  const users = await User.findAll({ where: { active: true, ...team }, transaction: context.tx });
  return users.map(({ id }) => id);
}

const keyOf = ({ kind, id, is_asked: isAsked }: FoundCause): string => `${isAsked ? 'meeting' : kind}:${id}`;

/** What somebody put off, and when; something newer about it brings it back. */
async function putOff(context: Context): Promise<Map<string, Date>> {
  const rows = await RoundLater.findAll({
    where: { userId: requireActor(context).id, until: { [Op.gt]: context.now() } },
    transaction: context.tx,
  });
  return new Map(rows.map(({ key, createdAt }) => [key, createdAt]));
}

interface Weighed extends Cause {
  id: string;
  found: FoundCause;
  task: TaskView | null;
  case: CaseRow | null;
  turn: Contact | null;
}

/** What is needed to rank the causes. */
interface Around {
  important: Set<string>;
  deals: Map<
    string,
    { id: string; title: string; amountMinor: number | null; currency: string; stake: number }
  >;
  dealOf: Map<string, string>;
  waits: Map<string, number | null>;
  turns: Map<string, Contact>;
  tasks: Map<string, TaskView>;
  cases: Map<string, CaseRow>;
}

/** What is said besides of those that are shown. */
interface Shown {
  names: Map<string, { name: string; phone: string | null; email: string | null }>;
  moves: Set<string>;
}

const idsOf = (
  causes: readonly FoundCause[],
  key: 'person_id' | 'company_id' | 'lead_id' | 'deal_id',
): string[] => [...new Set(causes.flatMap((cause) => cause[key] ?? []))];

/** Everything that is said of the causes, each asked for once. */
async function around(context: Context, causes: readonly FoundCause[]): Promise<Around> {
  const people = idsOf(causes, 'person_id');
  const ofKind = (kind: FoundCause['kind']): string[] =>
    causes.filter((cause) => cause.kind === kind).map(({ id }) => id);
  const best = await dealsOfPeople(context, people);
  const named = await dealsByIds(context, idsOf(causes, 'deal_id'));
  const inHouse = await toHouse(context);
  const unit = 10 ** minorDigits(context.house.currency);
  const stakeOf = (minor: number | null, currency: string, probability: number): number =>
    minor === null ? 0 : (((inHouse(minor, currency) ?? minor) / unit) * probability) / 100;
  const deals: Around['deals'] = new Map();
  for (const { deal_id: id, title, amount_minor, currency, probability } of [...best, ...named]) {
    const amountMinor = amount_minor === null ? null : Number(amount_minor);
    deals.set(id, { id, title, amountMinor, currency, stake: stakeOf(amountMinor, currency, probability) });
  }
  const waiting = [...ofKind('turn')];
  const spoken = new Map<string, { at: string; side: 'ours' | 'theirs' | 'within' }[]>();
  for (const { person_id: id, at, side } of await spokenWith(context, waiting))
    spoken.set(id, [...(spoken.get(id) ?? []), { at: at.toISOString(), side }]);
  return {
    important: await importantOf(context, [...people, ...idsOf(causes, 'company_id')]),
    deals,
    dealOf: new Map(best.map(({ person_id, deal_id }) => [person_id, deal_id])),
    waits: new Map([...spoken].map(([id, entries]) => [id, usualWait(entries)])),
    turns: await turnsOfPeople(context, ofKind('turn')),
    tasks: new Map((await tasksByIds(context, ofKind('task'))).map((task) => [task.id, task])),
    cases: new Map((await casesByIds(context, ofKind('case'))).map((one) => [one.id, one])),
  };
}

type Ranked = ReturnType<typeof rankCauses<Weighed>>[number];

/** Names, ways to reach and next moves, for the lines that are shown only: they are few of what is ranked. */
async function sayOf(context: Context, lines: readonly Ranked[], about: Around): Promise<Shown> {
  const causes = lines.flatMap(({ first, besides }) => [first, ...besides].map(({ found }) => found));
  const people = idsOf(causes, 'person_id');
  const dealIds = [...idsOf(causes, 'deal_id'), ...people.flatMap((id) => about.dealOf.get(id) ?? [])];
  const labels = await namesOf(context, [
    ...new Set([
      ...people,
      ...idsOf(causes, 'company_id'),
      ...idsOf(causes, 'lead_id'),
      ...causes.map(({ owner_id }) => owner_id),
    ]),
  ]);
  return {
    names: new Map(labels.map(({ id, ...rest }) => [id, rest])),
    moves: await withNextMove(context, [...people, ...dealIds]),
  };
}

/** How an urgency weighs, in the words of tasks. */
const URGENCY = { urgent: 'high', normal: 'normal', low: 'low' } as const;

function weigh(found: FoundCause, about: Around): Weighed | null {
  const task = about.tasks.get(found.id) ?? null;
  const wanted = about.cases.get(found.id) ?? null;
  const turn = found.kind === 'turn' ? (about.turns.get(found.id) ?? null) : null;
  // What not everybody sees is read for whoever asks; for them it may be nobody's turn.
  if (found.kind === 'turn' && turn?.turn !== 'ours') return null;
  // Where they wait for no word of ours it wants nobody before it was to be solved.
  if (
    found.kind === 'case' &&
    (!wanted || !(wanted.late || wanted.state === 'new' || wanted.state === 'ours'))
  )
    return null;
  if (found.kind === 'task' && (!task || task.state === 'later')) return null;
  const dealId = found.deal_id ?? (found.person_id ? about.dealOf.get(found.person_id) : undefined);
  const stake = (dealId ? about.deals.get(dealId)?.stake : undefined) ?? 0;
  const isImportant = [found.person_id, found.company_id].some(
    (id) => id !== null && about.important.has(id),
  );
  return {
    id: keyOf(found),
    kind: found.kind,
    about: found.person_id ?? found.deal_id ?? found.lead_id ?? found.company_id ?? found.id,
    since: turn?.since ?? found.since.toISOString(),
    at: task && !task.allDay ? task.dueAt : null,
    stake,
    usualWait: found.person_id ? (about.waits.get(found.person_id) ?? null) : null,
    isPromised: turn !== null && /promis/i.test(turn.because),
    isImportant,
    priority: task?.priority ?? URGENCY[wanted?.urgency ?? 'normal'],
    times: found.days !== null && found.usual ? found.days / found.usual : 1,
    found,
    task,
    case: wanted,
    turn,
  };
}

const asCause = ({ found, task, case: wanted, turn, since }: Weighed, shown: Shown): RoundCause => ({
  kind: found.kind,
  key: keyOf(found),
  since,
  because: turn?.because ?? '',
  task,
  isAsked: found.is_asked,
  case: wanted && { id: wanted.id, name: wanted.title, urgency: wanted.urgency, late: wanted.late },
  days: found.days,
  usualDays: found.usual,
  stage: found.stage,
  hasNextMove: shown.moves.has(found.deal_id ?? found.person_id ?? ''),
});

const minutesOf = ({ first: { found, task } }: Ranked): number =>
  minutesFor(found.kind === 'task' ? (task?.kind ?? 'task') : found.kind);

function asLine(line: Ranked, about: Around, shown: Shown): RoundLine {
  const { first, besides, points, parts } = line;
  const { found } = first;
  const named = (id: string | null): { id: string; name: string } | null => {
    const name = id ? shown.names.get(id)?.name : undefined;
    return id && name ? { id, name } : null;
  };
  const dealId = found.deal_id ?? (found.person_id ? about.dealOf.get(found.person_id) : undefined);
  const deal = dealId ? about.deals.get(dealId) : undefined;
  const reach = found.person_id ? shown.names.get(found.person_id) : undefined;
  return {
    ...asCause(first, shown),
    besides: besides.map((cause) => asCause(cause, shown)),
    person: named(found.person_id),
    company: named(found.company_id),
    lead: named(found.lead_id),
    deal: deal
      ? { id: deal.id, name: deal.title, amountMinor: deal.amountMinor, currency: deal.currency }
      : null,
    owner: named(found.owner_id) ?? { id: found.owner_id, name: '' },
    isImportant: first.isImportant,
    usualWaitHours: first.usualWait,
    phone: reach?.phone ?? null,
    email: reach?.email ?? null,
    minutes: minutesOf(line),
    points: Math.round(points),
    parts: parts.map((part) => ({ words: part.words, points: Math.round(part.points * 10) / 10 })),
  };
}

/** The round of somebody or of their team: everything that wants them today, in the order of what waiting costs. */
export async function listRound(
  context: Context,
  { whose, kind }: { whose: 'mine' | 'team'; kind?: RoundCause['kind'] | undefined },
): Promise<Reply<'GET /api/round'>> {
  const actor = requireActor(context);
  const today = DateTime.fromJSDate(context.now(), { zone: actor.timeZone }).startOf('day');
  // A whole day in another zone may begin later than here.
  const found = await findCauses(context, await ownersOf(context, whose), today.plus({ days: 2 }).toJSDate());
  const later = await putOff(context);
  const about = await around(context, found);
  const causes = found.flatMap((one) => {
    const cause = weigh(one, about);
    const off = later.get(keyOf(one));
    // Nothing new comes up about a meeting that a colleague holds.
    const isOff = off && (one.is_asked || new Date(cause?.turn?.touchedAt ?? cause?.since ?? 0) <= off);
    return cause && !isOff ? [cause] : [];
  });
  const lines = rankCauses(causes, context.now().toISOString());
  const counts = { turn: 0, task: 0, new: 0, case: 0, stuck: 0, quiet: 0 };
  for (const { first } of lines) counts[first.kind]++;
  const wanted = lines.filter(({ first }) => !kind || first.kind === kind);
  const onPage = wanted.slice(0, SHOWN);
  const shown = await sayOf(context, onPage, about);
  return {
    items: onPage.map((line) => asLine(line, about, shown)),
    counts,
    total: lines.length,
    minutes: wanted.reduce((sum, line) => sum + minutesOf(line), 0),
  };
}
