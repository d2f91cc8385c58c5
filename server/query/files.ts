import { queryString } from '@emporikon/contract/queries';
import { writeCsv } from '@emporikon/core/formats/csv';
import { decimalOf } from '@emporikon/core/lifecycle/currencies';
import type { Field, PlainValue, Query } from '@emporikon/core/query/types';
import type { FastifyInstance } from 'fastify';
import { disposition } from '../captures/attachments';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { fileSchema } from '../http/openapi';
import { pageOfIds, valuesOf } from './answer';
import { readTurnsAnew } from './turns';
import { schemaFor } from './views';

const [MOST_ROWS, AT_ONCE] = [200_000, 500];

interface Exported {
  many: string;
  fields: Field[];
  rows: { id: string; values: Record<string, PlainValue> }[];
}

/** Everything that a query shows, in its order, as far as whoever asks may see it. */
async function exportRows(context: Context, query: Query): Promise<Exported> {
  const schema = await schemaFor(context, query);
  const spec = schema.registry[query.kind];
  const columns = query.columns?.length ? [...query.columns] : [spec.name];
  const asked = query.order?.length
    ? query
    : { ...query, order: [{ field: spec.name, direction: 'asc' as const }] };
  const rows: Exported['rows'] = [];
  let cursor: string | undefined;
  do {
    const { ids, next } = await pageOfIds(context, schema, asked, { cursor, limit: AT_ONCE });
    const said = await valuesOf(context, schema, { kind: query.kind, columns }, ids);
    if (query.kind === 'person') await readTurnsAnew(context, columns, said);
    for (const id of ids) {
      const row = said.get(id);
      if (row) rows.push({ id, values: row.values });
    }
    cursor = next ?? undefined;
  } while (cursor && rows.length < MOST_ROWS);
  return { many: spec.many, fields: columns.flatMap((key) => spec.fields.get(key) ?? []), rows };
}

/** A value as it stands in a table for other programs: choices by what they are called, money as a plain decimal. */
function cellOf(value: PlainValue | undefined, { type, options }: Field, currency: string): string {
  if (value === null || value === undefined) return '';
  const called = (one: string): string => options?.find((option) => option.value === one)?.label ?? one;
  if (typeof value === 'object') return value.map(called).join('; ');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (type === 'money') return decimalOf(Number(value), currency);
  return called(String(value));
}

/** What a view shows as a file: a table, or a line of JSON for each record. */
export function mountQueryFiles(app: FastifyInstance, tools: Tools): void {
  const mount = (ending: 'csv' | 'jsonl', mediaType: string, write: (exported: Exported) => string): void => {
    app.get(
      `/api/queries.${ending}`,
      {
        schema: {
          ...fileSchema(`GET /api/queries.${ending}`, {
            summary: `What a query shows, as ${ending === 'csv' ? 'a table' : 'JSON Lines'}`,
            tag: 'queries',
            mediaType,
          }),
          querystring: queryString,
        },
      },
      async (request, reply) => {
        // It was read as its schema says before it came here.
        const { query } = request.query as { query: Query };
        const exported = await runInTransaction(tools, request.actor, (context) =>
          exportRows(context, query),
        );
        return reply
          .type(`${mediaType}; charset=utf-8`)
          .header('content-disposition', disposition(`${exported.many.replace(/ /g, '-')}.${ending}`))
          .send(write(exported));
      },
    );
  };
  mount('csv', 'text/csv', ({ fields, rows }) => {
    const { currency } = tools.house;
    const head = fields.map(({ label, type }) => (type === 'money' ? `${label} (${currency})` : label));
    const cells = rows.map(({ values }) => fields.map((field) => cellOf(values[field.key], field, currency)));
    return `\ufeff${writeCsv([head, ...cells])}`;
  });
  mount('jsonl', 'application/jsonl', ({ rows }) =>
    rows.map(({ id, values }) => `${JSON.stringify({ id, ...values })}\n`).join(''),
  );
}
