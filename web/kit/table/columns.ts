/** One column of a table of records. */
export interface Column {
  key: string;
  title: string;
  /** The name the server sorts it by, where it can. */
  sort?: string;
  /** Which way it is mostly wanted; ascending where nothing is said. */
  firstWay?: 'asc' | 'desc';
  /** Whether what it shows grows as what it is sorted by falls: days since a date. */
  isReversed?: boolean;
  isNumber?: boolean;
  /** Its share of the width, beside those of the others. */
  width: number;
  /** The column that says what a row is: it is always shown and first on a phone. */
  isName?: boolean;
  /** Whether it is one of the facts of a card on a phone. */
  onPhone?: boolean;
  /** Left out until it is asked for. */
  isHidden?: boolean;
}

/** A heading that stands before a row, with how deep it is among those of its row. */
export interface Heading {
  level: number;
  key: string;
}

/** How somebody arranged a table on their device. Columns it does not name keep their own place, width and visibility. */
export interface Arrangement {
  order?: string[];
  hidden?: string[];
  widths?: Record<string, number>;
}

/** No column gets narrower than this share. */
const LEAST = 4;

const isHidden = (column: Column, { hidden, order }: Arrangement): boolean =>
  !column.isName &&
  (hidden?.includes(column.key) || (column.isHidden === true && !order?.includes(column.key)));

/** All columns in the order somebody gave them; new ones stand where the program has them. */
export function inOrder(columns: readonly Column[], { order = [] }: Arrangement): Column[] {
  const known = order.flatMap((key) => columns.find((column) => column.key === key) ?? []);
  const all = [...known];
  for (const [at, column] of columns.entries()) {
    if (known.includes(column)) continue;
    const before = columns[at - 1];
    all.splice(before ? all.indexOf(before) + 1 : 0, 0, column);
  }
  return all;
}

/** The columns that are shown, in their order, with their widths. */
export const arranged = (columns: readonly Column[], kept: Arrangement): Column[] =>
  inOrder(columns, kept)
    .filter((column) => !isHidden(column, kept))
    .map((column) => ({ ...column, width: kept.widths?.[column.key] ?? column.width }));

/** Puts a column where another one stands. */
export function moveColumn(
  columns: readonly Column[],
  kept: Arrangement,
  key: string,
  onto: string,
): Arrangement {
  const order = inOrder(columns, kept).map((column) => column.key);
  const [from, to] = [order.indexOf(key), order.indexOf(onto)];
  if (from < 0 || to < 0 || from === to) return kept;
  order.splice(to, 0, ...order.splice(from, 1));
  const hidden = columns.filter((column) => isHidden(column, kept)).map((column) => column.key);
  return { ...kept, order, hidden };
}

/** Shows or hides a column. */
export function turnColumn(columns: readonly Column[], kept: Arrangement, key: string): Arrangement {
  const hidden = columns.filter((column) => isHidden(column, kept)).map((column) => column.key);
  return {
    ...kept,
    order: inOrder(columns, kept).map((column) => column.key),
    hidden: hidden.includes(key) ? hidden.filter((name) => name !== key) : [...hidden, key],
  };
}

/** Gives a column some share of the one after it (or takes it back): the table stays as wide as it is. */
export function resizeColumn(
  columns: readonly Column[],
  kept: Arrangement,
  key: string,
  by: number,
): Arrangement {
  const shown = arranged(columns, kept);
  const at = shown.findIndex((column) => column.key === key);
  const [column, next] = [shown[at], shown[at + 1]];
  if (!column || !next) return kept;
  const given = Math.max(LEAST - column.width, Math.min(by, next.width - LEAST));
  return {
    ...kept,
    widths: {
      ...kept.widths,
      [column.key]: column.width + given,
      [next.key]: next.width - given,
    },
  };
}

/** Which way a column is sorted after it was pressed. */
export const nextSort = (
  column: Column,
  now: { sort: string; direction: 'asc' | 'desc' },
): { sort: string; direction: 'asc' | 'desc' } => {
  const first = column.firstWay ?? 'asc';
  const isSorted = now.sort === column.sort;
  return {
    sort: column.sort ?? now.sort,
    direction: isSorted && now.direction === first ? (first === 'asc' ? 'desc' : 'asc') : first,
  };
};
