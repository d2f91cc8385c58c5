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

export async function listImports(context: Context): Promise<ImportRow[]> {
  const imports = await Import.findAll({
    order: [['createdAt', 'DESC']],
    limit: 50,
    transaction: context.tx,
  });
  const users = new Map(
    (await User.findAll({ transaction: context.tx })).map((user) => [user.id, user.name]),
  );
  return imports.map((one) => asRow(one, users.get(one.createdBy) ?? ''));
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
