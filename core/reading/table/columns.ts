import { addressLikeness } from '../../people/addresses';
import { companyLikeness } from '../../people/companies';
import { isEmail } from '../../people/emails';
import { looksLikeName } from '../../people/names';
import { readPhone, type PhoneType } from '../../people/phones';
import { fold } from '../../people/text';
import { titleLikeness } from '../signature/words';
import type { Claim, ClaimField } from '../types';
import { readDay, type DateHabit } from './days';
import { fieldOfLabel } from './labels';
import type { RecordField } from './records';

export type TargetField = Claim['field'] | 'tags' | 'none' | RecordField;

export interface Column {
  index: number;
  heading: string;
  field: TargetField;
  type: PhoneType | null;
  /** What the field was told by. */
  by: 'heading' | 'content' | 'nothing' | 'hand';
  samples: string[];
  /** Share of rows in which it holds something, 0 to 1. */
  filled: number;
}

export interface TableShape {
  /** Whether the first row holds headings. */
  hasHead: boolean;
  columns: Column[];
  dates: DateHabit;
  decimal: ',' | '.' | null;
}

/** A field of the house's own, offered beside the standard ones. */
export interface CustomLabel {
  key: string;
  label: string;
}

const SAMPLE_ROWS = 200;
const SAMPLES = 3;
const SINGLE = new Set<string>([
  'fullName',
  'givenName',
  'familyName',
  'jobTitle',
  'companyName',
  'birthday',
  'timeZone',
  'tags',
]);
const TAGS = new Set([
  'tag',
  'tags',
  'label',
  'labels',
  'group',
  'groups',
  'category',
  'categories',
  'segment',
  'stichworte',
  'etiquetas',
  'kategorie',
]);

const share = (values: readonly string[], test: (value: string) => boolean): number =>
  values.length ? values.filter(test).length / values.length : 0;

const isDate = (value: string): boolean => readDay(value, 'day first') !== null;
const STREET_ONLY = 0.7;

/** What the values of a column are by themselves, where no heading says it. */
function fieldOfContent(values: readonly string[]): TargetField | null {
  if (!values.length) return null;
  if (share(values, isEmail) > 0.7) return 'email';
  if (share(values, (one) => /^(?:https?:\/\/|www\.)\S+\.\S+$/i.test(one)) > 0.7) return 'url';
  if (share(values, isPhoneLike) > 0.7) return 'phone';
  if (share(values, isDate) > 0.7) return null;
  if (share(values, (one) => titleLikeness(one) > 0) > 0.6) return 'jobTitle';
  if (share(values, (one) => companyLikeness(one) > 0) > 0.5) return 'companyName';
  if (share(values, (one) => addressLikeness(one) >= 1 && /\d/.test(one)) > STREET_ONLY) return 'address';
  const isWholeName = (one: string): boolean =>
    looksLikeName(one) && /\s/.test(one) && titleLikeness(one) === 0;
  return share(values, isWholeName) > 0.7 ? 'fullName' : null;
}

const isPhoneLike = (value: string): boolean =>
  /^[+(\d][\d\s().\-/]{5,22}$/.test(value) &&
  value.replace(/\D/g, '').length >= 7 &&
  !/^\d{4}-\d\d-\d\d$|^\d{1,2}[./]\d{1,2}[./]\d{2,4}$/.test(value) &&
  (/^[+(0]/.test(value) || readPhone(value, ['US', 'GB']) !== null);

/** A first row of headings has words we know, or is unlike every row below it. */
function isHead(first: readonly string[], below: readonly string[][]): boolean {
  if (first.some((cell) => isEmail(cell.trim()) || isPhoneLike(cell.trim()))) return false;
  if (first.some((cell) => fieldOfLabel(cell) !== null || TAGS.has(fold(cell)))) return true;
  return below.length > 0 && first.every((cell) => cell.trim() !== '' && !/^[\d.,\s]+$/.test(cell));
}

function habits(values: readonly string[][]): Pick<TableShape, 'dates' | 'decimal'> {
  let dates: DateHabit = null;
  let decimal: TableShape['decimal'] = null;
  for (const column of values) {
    const days = column
      .map((one) => /^(\d{1,4})[./-](\d{1,2})[./-](\d{1,4})$/.exec(one))
      .filter((one) => one !== null);
    if (days.length > column.length * 0.6 && days.length) {
      const [firsts, seconds] = [days.map((day) => Number(day[1])), days.map((day) => Number(day[2]))];
      if (firsts.some((first) => first > 31)) dates ??= 'year first';
      else if (seconds.some((second) => second > 12)) dates = 'month first';
      else if (firsts.some((first) => first > 12)) dates = 'day first';
      else dates ??= days.some((day) => day[0].includes('/')) ? dates : 'day first';
    }
    const sums = column.filter((one) => /^-?\d[\d., ]*[.,]\d{1,2}$/.test(one) && !isDate(one));
    if (sums.length > column.length * 0.5 && sums.length)
      decimal ??= sums.filter((sum) => /,\d{1,2}$/.test(sum)).length > sums.length / 2 ? ',' : '.';
  }
  return { dates, decimal };
}

/** What a column holds shows in the beginning of a cell. */
const LONGEST_SAMPLE = 300;
const shortened = (cell = ''): string => cell.slice(0, LONGEST_SAMPLE).trim();

/**
 * Finds out what the columns of a table hold: by their headings, else by their values.
 * @param rows the table as text, headings and all
 * @param custom fields of the house's own
 */
export function readShape(rows: readonly string[][], custom: readonly CustomLabel[] = []): TableShape {
  const first = rows[0] ?? [];
  const hasHead = isHead(first.map(shortened), rows.slice(1, SAMPLE_ROWS + 1));
  const sample = rows.slice(hasHead ? 1 : 0, SAMPLE_ROWS + (hasHead ? 1 : 0));
  const width = Math.max(first.length, ...sample.map((row) => row.length), 0);
  const columns: Column[] = [];
  const valuesOf = (index: number): string[] => sample.map((row) => shortened(row[index])).filter(Boolean);
  const taken = (field: TargetField): boolean =>
    SINGLE.has(field) && columns.some((column) => column.field === field);
  for (let index = 0; index < Math.min(width, 200); index++) {
    const heading = hasHead ? shortened(first[index]) : '';
    const values = valuesOf(index);
    const labelled = fieldOfLabel(heading);
    const own = custom.find((one) => fold(one.label) === fold(heading) || one.key === fold(heading));
    let field: TargetField = 'none';
    let by: Column['by'] = 'nothing';
    if (own) [field, by] = [`custom:${own.key}`, 'heading'];
    else if (TAGS.has(fold(heading))) [field, by] = ['tags', 'heading'];
    else if (labelled && !taken(labelled.field) && fits(labelled.field, values))
      [field, by] = [labelled.field, 'heading'];
    else {
      const guess = fieldOfContent(values);
      if (guess && !taken(guess)) [field, by] = [guess, 'content'];
    }
    columns.push({
      index,
      heading: heading || `column ${index + 1}`,
      field,
      type: field === 'phone' ? (labelled?.type ?? null) : null,
      by,
      samples: [...new Set(values)].slice(0, SAMPLES),
      filled: sample.length ? values.length / sample.length : 0,
    });
  }
  return {
    hasHead,
    columns: settleNames(columns),
    ...habits(columns.map((column) => valuesOf(column.index))),
  };
}

/** A heading "Contact" over addresses, or "Name" over companies, is corrected by what stands below it. */
function fits(field: ClaimField, values: readonly string[]): boolean {
  if (!values.length) return true;
  if (field === 'email') return share(values, isEmail) > 0.3;
  if (field === 'phone') return share(values, (one) => /\d{3}/.test(one) && !one.includes('@')) > 0.5;
  if (field === 'fullName') return share(values, (one) => !one.includes('@') && !/\d{3}/.test(one)) > 0.6;
  return true;
}

/** "Name" beside "Given name" is the family name; beside a column of people it is the firm. */
function settleNames(columns: Column[]): Column[] {
  const of = (field: TargetField): Column | undefined => columns.find((column) => column.field === field);
  const [whole, given, family] = [of('fullName'), of('givenName'), of('familyName')];
  if (whole && given && !family && /^(?:nom|nome|name|nachname|naam|apellidos?)$/.test(fold(whole.heading)))
    whole.field = 'familyName';
  return columns;
}
