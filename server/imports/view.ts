import { lockNames } from '../commands/locks';
import {
  ChoicesInput,
  type ImportChoices,
  type ImportDetail,
  type ImportRow,
} from '@emporikon/contract/imports';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { Import } from '../db/models/imports';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';
import { inOrderOf, sortedIds, type SortKey } from '../http/sorting';

/** One job at a time on one import. A lock of its own, so that progress can be noted on the row meanwhile. */
export async function lockImport(context: Context, id: string): Promise<void> {
  await lockNames(context, [`import:${id}`]);
}

/** An import without its file. @throws 404 */
export async function loadImport(context: Context, id: string, lock = false): Promise<Import> {
  const one = await Import.findByPk(id, { transaction: context.tx, lock });
  if (!one) throw notFound('There is no such import.');
  return one;
}

export const choicesOf = (one: Import): ImportChoices => ChoicesInput.parse(one.choices ?? {});

function asRow(one: Import, by: string): ImportRow {
  return {
    id: one.id,
    name: one.name,
    kind: one.kind,
    state: one.state,
    total: one.total ?? 0,
    done: one.done ?? 0,
    counts: one.counts ?? {},
    trouble: one.trouble ?? '',
    by: { id: one.createdBy, name: by },
    createdAt: one.createdAt.toISOString(),
    finishedAt: one.finishedAt?.toISOString() ?? null,
  };
}

const SORTS = {
  createdAt: { sql: 'i.created_at', type: 'timestamptz', isRequired: true },
  name: { sql: 'i.name', type: 'text', isRequired: true },
  total: { sql: 'i.total', type: 'integer' },
  state: { sql: 'i.state', type: 'text', isRequired: true },
} as const satisfies Record<string, SortKey>;

interface ImportQuery {
  q?: string;
  state?: ImportRow['state'];
  sort: keyof typeof SORTS;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}

/** Imports by one of their columns, newest first where nothing is said. */
export async function listImports(
  context: Context,
  { q = '', state, sort, direction, cursor, limit }: ImportQuery,
): Promise<{ items: ImportRow[]; next: string | null }> {
  const isLargestFirst = sort === 'createdAt' || sort === 'total';
  const { ids, next } = await sortedIds(
    context,
    {
      from: 'imports i',
      id: 'i.id',
      where: "(:q = '' OR strpos(lower(i.name), lower(:q)) > 0) AND i.state = coalesce(:state, i.state)",
      replacements: { q: q.trim(), state: state ?? null },
    },
    { sort, key: SORTS[sort], direction: direction ?? (isLargestFirst ? 'desc' : 'asc'), cursor, limit },
  );
  const imports = await Import.findAll({ where: { id: ids }, transaction: context.tx });
  const users = await User.findAll({
    where: { id: imports.map(({ createdBy }) => createdBy) },
    transaction: context.tx,
  });
  const names = new Map(users.map(({ id, name }) => [id, name]));
  return {
    items: inOrderOf(ids, imports).map((found) => asRow(found, names.get(found.createdBy) ?? '')),
    next,
  };
}

/** The reasons rows stand back for, with how many each. Rows that differ only in a value are counted together. */
function problemsOf(context: Context, id: string): Promise<{ text: string; rows: number }[]> {
  return context.sequelize.query<{ text: string; rows: number }>(
    `SELECT regexp_replace(regexp_replace(reason, '“[^”]*”', '“…”'), 'may be .*', 'may be somebody we know') AS text, count(*)::int AS rows
       FROM import_rows WHERE import_id = :id AND (verdict IN ('maybe', 'unusable') OR reason LIKE 'left out:%') GROUP BY 1 ORDER BY 2 DESC LIMIT 20`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

export async function importDetail(context: Context, id: string): Promise<ImportDetail> {
  const one = await loadImport(context, id);
  const user = await User.findByPk(one.createdBy, { transaction: context.tx });
  return {
    ...asRow(one, user?.name ?? ''),
    version: one.version,
    reading: one.reading?.columns ? one.reading : null,
    mapping: one.mapping ?? null,
    choices: choicesOf(one),
    problems: await problemsOf(context, id),
  };
}
