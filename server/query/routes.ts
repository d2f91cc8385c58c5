import type { QueryField } from '@emporikon/contract/queries';
import { readQuestion } from '@emporikon/core/query/words/read';
import type { Field, Option, Query } from '@emporikon/core/query/types';
import type { Handlers } from '../http/mount';
import { pageOfIds, totalsOf, valuesOf } from './answer';
import { loadSchema } from './schema';
import { calculateColumns } from './calculated';
import { readTurnsAnew } from './turns';
import { changeView, deleteView, listViews, rememberView, saveView, schemaFor, viewOf } from './views';
import { knownValues, vocabularyFor } from './vocabulary';

const asField = (
  { key, label, type, unit, options, isReckoned }: Field,
  suggestions?: Option[],
): QueryField => ({
  key,
  label,
  type,
  ...(unit ? { unit } : {}),
  ...(options
    ? {
        options: options.map(({ value, label: called, countsAs }) => ({
          ...{ value, label: called },
          ...(countsAs === undefined || countsAs === value ? {} : { countsAs }),
        })),
      }
    : {}),
  ...(suggestions?.length && !options ? { suggestions } : {}),
  ...(isReckoned ? { isReckoned } : {}),
});

export const queryHandlers: Handlers = {
  'GET /api/queries/fields': async ({ query, context }) => {
    const { registry } = await loadSchema(context);
    const { one, many, name, fields, relations } = registry[query.kind];
    const known = await knownValues(context);
    return {
      one,
      many,
      name,
      fields: [...fields.values()].map((field) => asField(field, known[field.key])),
      relations: [...relations.values()],
    };
  },
  'POST /api/queries': async ({ body, context }) => {
    const query = body.query as Query;
    const schema = await schemaFor(context, query);
    const spec = schema.registry[query.kind];
    const asked = query.order?.length
      ? query
      : { ...query, order: [{ field: spec.name, direction: 'asc' as const }] };
    const { ids, groups, next } = await pageOfIds(context, schema, asked, body);
    const columns = [...new Set([spec.name, ...(query.columns ?? [])])];
    const said = await valuesOf(context, schema, { kind: query.kind, columns }, ids);
    if (query.kind === 'person') await readTurnsAnew(context, columns, said);
    await calculateColumns(context, schema, { kind: query.kind, columns }, said);
    return {
      items: ids.flatMap((id, at) => {
        const row = said.get(id);
        return row
          ? { id, values: row.values as Record<string, string>, links: row.links, keys: groups[at] ?? [] }
          : [];
      }),
      next,
    };
  },
  'POST /api/queries/totals': async ({ body, context }) => {
    const query = body.query as Query;
    const { totals, hasMore } = await totalsOf(context, await schemaFor(context, query), query);
    return { items: totals, hasMore };
  },
  'POST /api/queries/words': async ({ body, context }) => {
    const schema = await loadSchema(context);
    const vocabulary = await vocabularyFor(context, schema, body.words);
    const { registry, asking } = schema;
    const read = readQuestion(body.words, { registry, vocabulary, asking, hint: body.kind });
    return read as typeof read & { conditions: Record<string, unknown>[]; groups: { field: string }[] };
  },
  'GET /api/views': async ({ query, context }) => listViews(context, query.kind),
  'GET /api/views/:id': async ({ params, context }) => viewOf(context, params.id),
  'POST /api/views': async ({ body, context }) => saveView(context, { ...body, query: body.query as Query }),
  'PATCH /api/views/:id': async ({ params, body, context }) => {
    const { query, name, layout, shared, version } = body;
    return changeView(context, params.id, {
      version,
      ...(query ? { query: query as Query } : {}),
      ...(name ? { name } : {}),
      ...(layout ? { layout } : {}),
      ...(shared ? { shared } : {}),
    });
  },
  'DELETE /api/views/:id': async ({ params, context }) => deleteView(context, params.id),
  'PUT /api/views/:id/last': async ({ params, context }) => {
    await rememberView(context, params.id);
    return { ok: true as const };
  },
};
