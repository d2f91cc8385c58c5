import { GEOJSON_MEDIA_TYPE } from '../formats/geojson';
import { hasDays } from '../query/layout';
import type { Field, KindSpec, Query, RecordKind } from '../query/types';

export const EXPORT_FORMATS = ['csv', 'xlsx', 'jsonl', 'vcf', 'ics', 'geojson'] as const;
/** What the records of a view are handed over as. */
export type ExportFormat = (typeof EXPORT_FORMATS)[number];

/** What each is called, and its media type: RFC 4180, ECMA-376, JSON Lines, RFC 6350, RFC 5545, RFC 7946. */
export const FORMAT_NAMES: Readonly<Record<ExportFormat, { name: string; mediaType: string }>> = {
  csv: { name: 'Table (CSV)', mediaType: 'text/csv' },
  xlsx: {
    name: 'Workbook (XLSX)',
    mediaType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  jsonl: { name: 'JSON Lines', mediaType: 'application/jsonl' },
  vcf: { name: 'Contact cards (vCard)', mediaType: 'text/vcard' },
  ics: { name: 'Calendar (iCalendar)', mediaType: 'text/calendar' },
  geojson: { name: 'Map (GeoJSON)', mediaType: GEOJSON_MEDIA_TYPE },
};

/** The date that records of a kind are kept in a calendar for, where a view shows none. */
const USUAL_DATE: Partial<Record<RecordKind, string>> = {
  person: 'birthday',
  deal: 'expectedClose',
  task: 'due',
  lead: 'nextMoveDue',
  company: 'nextMoveDue',
};

/**
 * The field by which records stand in a calendar: the one that is asked for, else the first date among the columns, else
 * the usual one of their kind.
 * @returns null where there is none
 */
export function dateFieldOf(
  { kind, columns = [] }: Pick<Query, 'kind' | 'columns'>,
  fields: ReadonlyMap<string, Pick<Field, 'type'>>,
  by?: string,
): string | null {
  const keys = by === undefined ? [...columns, USUAL_DATE[kind] ?? ''] : [by];
  return keys.find((key) => hasDays(fields.get(key) ?? { type: 'text' })) ?? null;
}

/** Why records cannot be handed over in a format; null where they can. */
export function formatProblem(
  format: ExportFormat,
  query: Pick<Query, 'kind' | 'columns'>,
  { many, fields }: Pick<KindSpec, 'many' | 'fields'>,
  by?: string,
): string | null {
  if (format === 'vcf' && query.kind !== 'person') return `Contact cards are of people, not of ${many}.`;
  if (format === 'ics' && !dateFieldOf(query, fields, by))
    return 'A calendar needs a field that says a day or a time.';
  if (format === 'geojson' && !fields.has('place'))
    return `There is no map of ${many || 'these records'}: they have no location.`;
  return null;
}
