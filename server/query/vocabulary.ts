import type { Vocabulary } from '@emporikon/core/query/words/state';
import type { Schema } from '@emporikon/core/query/sql/scope';
import { minorDigits } from '@emporikon/core/lifecycle/minorUnits';
import type { Option } from '@emporikon/core/query/types';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';

/** So many values of a field are known by name. */
const MOST = 300;
interface Row {
  field: string;
  value: string;
  label: string;
}

/** Values that records have in fields of free text, as far as whoever asks may see them. */
export async function knownValues(context: Context): Promise<Record<string, Option[]>> {
  const counted = (field: string, kind: string): string =>
    `(SELECT '${field}' AS field, tag AS value, tag AS label FROM tag_counts WHERE kind IN (${kind}) GROUP BY tag HAVING sum(records) > 0 ORDER BY sum(records) DESC, tag LIMIT ${MOST})`;
  const rows = await context.sequelize.query<Row>(
    `${counted('tags', "'p', 'd'")} UNION ALL ${counted('industry', "'industry'")} UNION ALL ${counted('technologies', "'technology'")}
     UNION ALL (SELECT 'lists', id::text, name FROM lists ORDER BY name LIMIT ${MOST})
     UNION ALL (SELECT f, id::text, name FROM purposes, unnest(ARRAY['agreedTo', 'withdrewFrom']) f WHERE retired_at IS NULL ORDER BY position LIMIT ${MOST})
     UNION ALL (SELECT 'team', name, name FROM teams ORDER BY name LIMIT ${MOST})
     UNION ALL (SELECT DISTINCT 'source', source, source FROM (SELECT source FROM leads ORDER BY created_at DESC LIMIT 2000) newest)
     UNION ALL (SELECT DISTINCT 'jobTitle', job_title, job_title FROM (SELECT job_title FROM people WHERE job_title <> '' ORDER BY updated_at DESC LIMIT 2000) newest LIMIT ${MOST})
     UNION ALL (SELECT DISTINCT 'city', city, city FROM (SELECT address_parts[4] AS city FROM people WHERE address_parts[4] <> '' ORDER BY updated_at DESC LIMIT 2000) newest LIMIT ${MOST})`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  const known: Record<string, Option[]> = {};
  for (const { field, value, label } of rows) (known[field] ??= []).push({ value, label });
  return known;
}

/** The companies that a text names, among all there are. */
async function companiesIn(context: Context, text: string): Promise<Option[]> {
  const rows = await context.sequelize.query<{ name: string }>(
    `SELECT DISTINCT c.name FROM find_words f JOIN companies c ON c.id = f.id WHERE f.kind = 'c' AND f.word IN (:words)
        AND position(query_text(c.name) IN query_text(:text)) > 0 LIMIT 20`,
    {
      replacements: { words: [...new Set(text.toLowerCase().split(/[^\p{L}\p{N}]+/u)), ' '], text },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return rows.map(({ name }) => ({ value: name, label: name }));
}

/** What the words of a question may name in this organisation. */
export async function vocabularyFor(
  context: Context,
  { registry }: Schema,
  words: string,
): Promise<Vocabulary> {
  return {
    users: registry.person.fields.get('owner')?.options ?? [],
    values: { ...(await knownValues(context)), companyName: await companiesIn(context, words) },
    perUnit: 10 ** minorDigits(context.house.currency),
  };
}
