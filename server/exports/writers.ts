import { calendarFrame, writeOneEvent } from '@emporikon/core/formats/icalendar';
import { FEATURES, writeFeature } from '@emporikon/core/formats/geojson';
import { writeCsv } from '@emporikon/core/formats/csv';
import { headCells, sheetCell, textCell, type Cell } from '@emporikon/core/outgoing/cells';
import { eventOf } from '@emporikon/core/outgoing/events';
import type { ExportFormat } from '@emporikon/core/outgoing/formats';
import type { Context } from '../commands/context';
import { personCards } from '../people/cards';
import type { Outgoing, OutgoingRow } from './rows';
import { makeWorkbook } from './workbook';

/** How a file is written: what stands before its rows, the rows as they come, what stands after them. */
interface Writer {
  head: (context: Context, outgoing: Outgoing) => string;
  rows: (
    context: Context,
    outgoing: Outgoing,
    rows: readonly OutgoingRow[],
    isFirst: boolean,
  ) => string | Promise<string>;
  tail: string;
  /** Makes the file of all that was written, where it is no text. */
  finish?: (text: string) => Promise<Buffer>;
}

/** Where a record stands in the interface. */
const PAGES: Partial<Record<Outgoing['kind'], string>> = {
  person: 'people/',
  company: 'companies/',
  lead: 'leads/',
  deal: 'deals/',
  task: 'round?task=',
};
const line = (cells: readonly Cell[]): string => `${JSON.stringify(cells)}\n`;

export const WRITERS: Readonly<Record<ExportFormat, Writer>> = {
  csv: {
    head: ({ house }, { fields }) => `\ufeff${writeCsv([headCells(fields, house.currency)])}`,
    rows: ({ house }, { fields }, rows) =>
      writeCsv(
        rows.map(({ values }) => fields.map((field) => textCell(values[field.key], field, house.currency))),
      ),
    tail: '',
  },
  xlsx: {
    head: ({ house }, { fields }) => line(headCells(fields, house.currency)),
    rows: ({ house }, { fields }, rows) =>
      rows
        .map(({ values }) => line(fields.map((field) => sheetCell(values[field.key], field, house.currency))))
        .join(''),
    tail: '',
    finish: makeWorkbook,
  },
  jsonl: {
    head: () => '',
    rows: (_context, { fields }, rows) =>
      rows
        .map(({ id, values }) => {
          const shown = Object.fromEntries(fields.map(({ key }) => [key, values[key] ?? null]));
          return `${JSON.stringify({ id, ...shown })}\n`;
        })
        .join(''),
    tail: '',
  },
  vcf: {
    head: () => '',
    rows: async (context, _outgoing, rows) => {
      const cards = await personCards(
        context,
        rows.map(({ id }) => id),
      );
      return rows.map(({ id }) => cards.get(id) ?? '').join('');
    },
    tail: '',
  },
  ics: {
    head: (_context, { spec }) => calendarFrame(spec.many).head,
    rows: ({ house, now }, { kind, date }, rows) => {
      if (!date) return '';
      const told = { stamp: now().toISOString(), host: new URL(house.publicUrl).hostname };
      const page = PAGES[kind];
      return rows
        .map(({ id, name, values }) =>
          eventOf({ id, name, value: values[date.key] }, date, {
            ...told,
            url: page ? `${house.publicUrl}/${page}${id}` : '',
          }),
        )
        .flatMap((event) => (event ? [writeOneEvent(event)] : []))
        .join('');
    },
    tail: calendarFrame('').tail,
  },
  geojson: {
    head: () => FEATURES.head,
    rows: ({ house }, { fields, place }, rows, isFirst) =>
      rows
        .map(({ id, values }, at) => {
          const shown = Object.fromEntries(
            fields.map((field) => [field.label, sheetCell(values[field.key], field, house.currency)]),
          );
          const said = place && values[place.key];
          const feature = writeFeature(id, typeof said === 'string' ? said : null, shown);
          return `${isFirst && at === 0 ? '' : ','}\n${feature}`;
        })
        .join(''),
    tail: FEATURES.tail,
  },
};
