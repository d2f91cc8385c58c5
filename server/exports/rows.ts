import { rightOn } from '@emporikon/core/rights/kinds';
import { dateFieldOf, formatProblem, type ExportFormat } from '@emporikon/core/outgoing/formats';
import { PLACE_FIELD } from '@emporikon/core/query/sql/places';
import type { Field, KindSpec, PlainValue, Query } from '@emporikon/core/query/types';
import type { Context } from '../commands/context';
import { requireRight } from '../commands/rights';
import { invalid } from '../http/problems';
import { pageOfIds, valuesOf } from '../query/answer';
import { calculateColumns } from '../query/calculated';
import { readTurnsAnew } from '../query/turns';
import { schemaFor } from '../query/views';

/** What is asked for as a file. */
export interface Asked {
  query: Query;
  format: ExportFormat;
  dateField?: string | undefined;
}
/** What a file is made of, once its question is checked. */
export interface Outgoing {
  kind: Query['kind'];
  spec: KindSpec;
  /** Its columns, in their order. */
  fields: Field[];
  /** The field of its dates, where it is a calendar. */
  date: Field | null;
  /** The field of its locations, where it is a map. */
  place: Field | null;
}
export interface OutgoingRow {
  id: string;
  name: string;
  values: Record<string, PlainValue>;
}

/** @throws 403 where records of the kind may not be exported, 422 for a question that cannot be asked, or records that cannot be handed over in the format */
export async function loadOutgoing(context: Context, { query, format, dateField }: Asked): Promise<Outgoing> {
  requireRight(context, rightOn(query.kind, 'export'));
  const { registry } = await schemaFor(context, query);
  const spec = registry[query.kind];
  const problem = formatProblem(format, query, spec, dateField);
  if (problem) throw invalid(problem, { fields: { format: problem } });
  const columns = query.columns?.length ? query.columns : [spec.name];
  const date = format === 'ics' ? dateFieldOf(query, spec.fields, dateField) : null;
  return {
    kind: query.kind,
    spec,
    fields: columns.flatMap((key) => spec.fields.get(key) ?? []),
    date: (date && spec.fields.get(date)) || null,
    place: (format === 'geojson' && spec.fields.get(PLACE_FIELD)) || null,
  };
}

/** Some of what a query shows, in its order, as far as whoever asks may see it. */
export async function outgoingRows(
  context: Context,
  { kind, spec, fields, date, place }: Outgoing,
  query: Query,
  page: { cursor: string | undefined; limit: number },
): Promise<{ rows: OutgoingRow[]; next: string | null }> {
  const schema = await schemaFor(context, query);
  const order = query.order?.length ? query.order : [{ field: spec.name, direction: 'asc' as const }];
  const { ids, next } = await pageOfIds(context, schema, { ...query, order }, page);
  const shown = [...fields, ...(date ? [date] : []), ...(place ? [place] : [])];
  const columns = [...new Set([spec.name, ...shown.map(({ key }) => key)])];
  const said = await valuesOf(context, schema, { kind, columns }, ids);
  if (kind === 'person') await readTurnsAnew(context, columns, said);
  await calculateColumns(context, schema, { kind, columns }, said);
  const rows = ids.flatMap((id) => {
    const values = said.get(id)?.values;
    return values ? [{ id, name: String(values[spec.name] ?? ''), values }] : [];
  });
  return { rows, next };
}
