import type { FoundRecord, QueryField } from '@emporikon/contract/queries';
import type { ComputedRef, Ref } from 'vue';
import type { Column } from '../kit/table/columns';

/** What stands on the card of a record. */
export type CardOf = (row: FoundRecord) => {
  name: string;
  to: string;
  shown: { key: string; title: string; text: string }[];
};

/** Cards show the columns of the view, but for the name, which is their head, and for the field of the lanes they stand in. */
export const cardOf =
  (
    columns: ComputedRef<Column[]>,
    fields: Ref<ReadonlyMap<string, QueryField>>,
    textOf: (row: FoundRecord, key: string) => string,
    nameOf: (row: FoundRecord) => string,
    toRecord: (row: FoundRecord) => string,
  ): CardOf =>
  (row) => ({
    name: nameOf(row),
    to: toRecord(row),
    shown: columns.value.flatMap(({ key, title, isName }) => {
      const text = isName ? '' : textOf(row, key);
      return text && fields.value.has(key) ? [{ key, title, text }] : [];
    }),
  });
