import { termName, type Term } from '@emporikon/core/lifecycle/terms';
import { QueryTypes, type Transaction } from 'sequelize';
import { isOfMany } from '../commands/followers';
import { isTerm, loadTerms, withTermKeys } from '../commands/terms';
import type { Completes, Tools } from '../commands/types';
import type { Change } from '../db/models/ledger';
import { enter, type Concerned } from './write';

type Row = Record<string, unknown>;
/** What changed on a record, in words, and on whose ledgers it stands. */
interface Told {
  headline: string;
  body?: string;
  about: Concerned;
}

const text = (value: unknown): string => (typeof value === 'string' ? value : '');
const idOf = (value: unknown): string | null => text(value) || null;

/** The names of stages and colleagues that changes speak of. */
async function namesOf(
  tools: Tools,
  tx: Transaction,
  changes: readonly Change[],
): Promise<(id: unknown) => string> {
  const ids = changes.flatMap(({ before, after }) =>
    [before, after].flatMap((row) => [row?.stageId, row?.ownerId].flatMap((id) => idOf(id) ?? [])),
  );
  if (!ids.length) return () => 'nobody';
  const rows = await tools.sequelize.query<{ id: string; name: string }>(
    'SELECT id, name FROM stages WHERE id IN (:ids) UNION ALL SELECT id, name FROM users WHERE id IN (:ids) UNION ALL SELECT id, name FROM project_stages WHERE id IN (:ids)',
    { replacements: { ids: [...new Set(ids)] }, type: QueryTypes.SELECT, transaction: tx },
  );
  const names = new Map(rows.map((row) => [row.id, row.name]));
  return (id) => names.get(text(id)) ?? 'nobody';
}

const ABOUT: Record<string, (id: string, row: Row) => Concerned> = {
  deals: (id, row) => ({ dealId: id, companyId: idOf(row.companyId) }),
  leads: (id, row) => ({
    leadId: id,
    personId: idOf(row.personId),
    companyId: idOf(row.companyId),
    dealId: idOf(row.dealId),
  }),
  projects: (id, row) => ({ projectId: id, companyId: idOf(row.companyId) }),
  cases: (id, row) => ({ caseId: id, personId: idOf(row.personId), companyId: idOf(row.companyId) }),
  people: (id) => ({ personId: id }),
  companies: (id) => ({ companyId: id }),
};

const MOVED: readonly [table: string, field: string, word: string][] = [
  ['deals', 'stageId', 'Stage'],
  ['leads', 'status', 'Status'],
  ['people', 'standing', 'Standing'],
  ['companies', 'kind', 'Kind'],
  ['projects', 'stageId', 'Stage'],
  ['projects', 'ownerId', 'Owner'],
  ['cases', 'urgency', 'Urgency'],
  ['cases', 'ownerId', 'Owner'],
  ['deals', 'ownerId', 'Owner'],
  ['leads', 'ownerId', 'Owner'],
  ['people', 'ownerId', 'Owner'],
  ['companies', 'ownerId', 'Owner'],
];
const NAMED = new Set(['stageId', 'ownerId']);

/** A case that was solved, with how, or is open again. */
function ofSolution({ table, id, before, after }: Change): Told[] {
  if (table !== 'cases' || !before || !after || !before.solvedAt === !after.solvedAt) return [];
  const about = ABOUT.cases?.(id, after) ?? {};
  return [
    after.solvedAt
      ? { headline: `Case solved: ${text(after.title)}`, body: text(after.solution), about }
      : { headline: `Case open again: ${text(after.title)}`, about },
  ];
}

function tell(change: Change, nameOf: (id: unknown) => string, terms: readonly Term[]): Told[] {
  const { table, id, before, after } = change;
  const about = ABOUT[table];
  if (!before || !after || !about) return [];
  const moved = MOVED.flatMap(([of, field, word]) => {
    if (of !== table || before[field] === undefined || before[field] === after[field]) return [];
    const words = (value: unknown): string =>
      NAMED.has(field) ? nameOf(value) : isTerm(table, field) ? termName(terms, text(value)) : text(value);
    const why = field === 'status' ? text(after.dropReason) : '';
    return {
      headline: `${word}: ${words(before[field])} → ${words(after[field])}`,
      ...(why && after.status === 'dropped' ? { body: why } : {}),
      about: about(id, after),
    };
  });
  return [...moved, ...ofSolution(change)];
}

/** First and last state of each row, so that what a command wrote in steps is told once. */
function firstToLast(changes: readonly Change[]): Change[] {
  const rows = new Map<string, Change>();
  for (const change of changes) {
    const known = rows.get(`${change.table}/${change.id}`);
    rows.set(`${change.table}/${change.id}`, known ? { ...known, after: change.after } : change);
  }
  return [...rows.values()];
}

/**
 * Stages, statuses, standings and owners stand in the ledger, with the sentence that whoever acted gave. They are part of
 * the event, so that taking it back takes them back. What an import set or a merge chose is told by those.
 */
export const enterChanges: Completes = async (
  tools,
  write,
  { command, changes, undoes, actorId, because },
  tx,
) => {
  if (undoes || command.startsWith('import') || command.includes('merge') || isOfMany(command)) return;
  const moved = firstToLast(changes)
    .filter(({ table, before, after }) => table in ABOUT && before && after)
    .map(withTermKeys);
  const nameOf = await namesOf(tools, tx, moved);
  const terms = moved.length ? await loadTerms({ sequelize: tools.sequelize, tx }) : [];
  for (const change of moved)
    for (const { headline, body = '', about } of tell(change, nameOf, terms))
      await enter(
        { ...tools, actor: null, tx, write },
        {
          side: 'within',
          kind: 'change',
          headline,
          body: [because, body].filter(Boolean).join(' '),
          actorId,
        },
        about,
      );
};
