import { fold } from '../../people/text';
import { readShape } from '../../reading/table/columns';
import { readDay } from '../../reading/table/days';

/** What a field of a table is compared as. */
export type Kind =
  | 'given'
  | 'family'
  | 'email'
  | 'phone'
  | 'company'
  | 'title'
  | 'street'
  | 'postcode'
  | 'city'
  | 'date'
  | 'number'
  | 'text';

export interface PlannedField {
  kind: Kind;
  /** Its heading, or what it was made from. */
  name: string;
  columns: number[];
  /** The column holds whole names, of which this field is one half. */
  fromFullName?: boolean;
}

export interface Plan {
  /** Which column names the rows; null when none does and they are counted. */
  idColumn: number | null;
  fields: PlannedField[];
}

const MOST_FIELDS = 14;
const ID =
  /^(?:.*\b)?(?:id|ids|identifier|uid|uuid|guid|key|rec id|record|record id|row|row id|ref|reference|nr|no)$/;
/** A first column of codes, each once, names the rows whatever its heading: "C-00017", "4711". */
const CODE = /^[A-Za-z]{0,12}[-_ ]?\d+(?:[-_]\w+)*$/;
const HEADINGS: readonly [RegExp, Kind][] = [
  [
    /^(?:.* )?(?:post ?code|postal ?code|zip|zip ?code|plz|code postal|codigo postal|postcode|cap)$/,
    'postcode',
  ],
  [
    /^(?:.* )?(?:city|town|suburb|locality|ort|stadt|ville|cidade|ciudad|plaats|stad|citta|municipality)$/,
    'city',
  ],
  [
    /^(?:.* )?(?:street|street name|street address|address|address ?\d|addr|addr ?\d|addressline|strasse|rua|rue|calle|straat|via)$/,
    'street',
  ],
];

const share = (values: readonly string[], test: (value: string) => boolean): number =>
  values.length ? values.filter(test).length / values.length : 0;

/**
 * Decides what the columns of a table are compared as, from its headings and a sample of its rows.
 * @param head the headings
 * @param sample some rows, unnamed columns and all
 */
export function planOf(head: readonly string[], sample: readonly string[][]): Plan {
  const shape = readShape([[...head], ...sample.map((row) => [...row])]);
  const valuesOf = (index: number): string[] =>
    sample.map((row) => (row[index] ?? '').trim()).filter(Boolean);
  const isUnique = (index: number): boolean => {
    const values = valuesOf(index);
    return values.length === sample.length && new Set(values).size === values.length;
  };
  const named = head.findIndex((one, index) => ID.test(fold(one)) && isUnique(index));
  const [first] = shape.columns;
  const isCoded =
    first?.field === 'none' &&
    isUnique(0) &&
    sample.length > 1 &&
    valuesOf(0).every((value) => CODE.test(value));
  const idColumn = named >= 0 ? named : isCoded ? 0 : null;
  const fields: PlannedField[] = [];
  const add = (kind: Kind, name: string, column: number): void => {
    const there = fields.find((field) => field.kind === kind && !field.fromFullName);
    if (there && (kind === 'email' || kind === 'phone')) there.columns.push(column);
    else if (there && !['text', 'number', 'date'].includes(kind))
      fields.push({ kind: 'text', name, columns: [column] });
    else fields.push({ kind, name, columns: [column] });
  };
  const hasHalves = shape.columns.some(
    (column) => column.field === 'familyName' || column.field === 'givenName',
  );
  for (const column of shape.columns) {
    if (column.index === idColumn) continue;
    const heading = fold(column.heading);
    const values = valuesOf(column.index);
    if (new Set(values).size < 2) continue;
    const byHeading = HEADINGS.find(([pattern]) => pattern.test(heading))?.[1];
    if (column.field === 'givenName') add('given', column.heading, column.index);
    else if (column.field === 'familyName') add('family', column.heading, column.index);
    else if (column.field === 'fullName' && !hasHalves) {
      fields.push({ kind: 'given', name: 'given name', columns: [column.index], fromFullName: true });
      fields.push({ kind: 'family', name: 'family name', columns: [column.index], fromFullName: true });
    } else if (column.field === 'email' || column.field === 'phone')
      add(column.field, column.heading, column.index);
    else if (column.field === 'companyName') add('company', column.heading, column.index);
    else if (column.field === 'jobTitle') add('title', column.heading, column.index);
    else if (byHeading) add(byHeading, column.heading, column.index);
    else if (column.field === 'address') add('street', column.heading, column.index);
    else if (share(values, (one) => readDay(one, shape.dates) !== null || /^(?:19|20)\d{6}$/.test(one)) > 0.8)
      add('date', column.heading, column.index);
    else if (share(values, (one) => /^[\d\s.,/-]+$/.test(one)) > 0.8)
      add('number', column.heading, column.index);
    else if (values.reduce((sum, one) => sum + one.length, 0) / values.length < 60)
      add('text', column.heading, column.index);
  }
  return { idColumn, fields: fields.slice(0, MOST_FIELDS) };
}
