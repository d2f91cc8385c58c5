import { normalizeEmail } from '../../people/emails';
import { parseName } from '../../people/names';
import { claimOf } from '../call/labelled';
import { CLAIM_FIELDS, type Claim } from '../types';
import type { Column, TableShape } from './columns';
import { readDay } from './days';

export interface RowReading {
  claims: Claim[];
  tags: string[];
  /** Why a value of the row was not taken, by column. */
  problems: { column: number; text: string }[];
}

const isClaimField = (field: string): field is Claim['field'] =>
  field.startsWith('custom:') || (CLAIM_FIELDS as readonly string[]).includes(field);

const WHAT: Record<string, string> = {
  email: 'is no email address',
  phone: 'is no phone number',
  url: 'is no web address',
  profile: 'is no web address',
  birthday: 'is no day',
};
const JOINED = /\s*[;,]\s*(?=\S+@)|\s*;\s*|\s+\/\s+/;

/** The values of one cell: two addresses or numbers may stand in it. */
const valuesIn = (column: Column, cell: string): string[] =>
  column.field === 'email' || column.field === 'phone' ? cell.split(JOINED).filter(Boolean) : [cell];

/**
 * The claims of one row, by what its columns hold.
 * @param country ISO 3166-1 alpha-2, for numbers without a country code
 * @param record which row it is, counted from 0
 */
export function readRow(
  row: readonly string[],
  shape: Pick<TableShape, 'columns' | 'dates'>,
  country: string | undefined,
  record?: number,
): RowReading {
  const reading: RowReading = { claims: [], tags: [], problems: [] };
  const names: { given?: string; family?: string } = {};
  const add = (claim: Claim): void => {
    const isDouble = reading.claims.some(
      (one) =>
        one.field === claim.field && (one.normalized ?? one.value) === (claim.normalized ?? claim.value),
    );
    if (!isDouble) reading.claims.push({ ...claim, ...(record === undefined ? {} : { record }) });
  };
  for (const column of shape.columns) {
    const cell = (row[column.index] ?? '').trim();
    const { field } = column;
    if (!cell || field === 'none') continue;
    // Fields of companies and deals say nothing of a person (`records.ts` reads them).
    if (!isClaimField(field) && field !== 'tags') continue;
    if (field === 'tags') reading.tags.push(...cell.split(/\s*[;,|]\s*/).filter(Boolean));
    else if (field === 'givenName') names.given = cell;
    else if (field === 'familyName') names.family = cell;
    else
      for (const value of valuesIn(column, cell)) {
        const claim =
          field === 'birthday' ? dayClaim(value, shape) : claimOf(field, value, column.type, country);
        if (claim)
          add({
            ...claim,
            confidence: column.by === 'content' ? Math.min(claim.confidence, 0.88) : claim.confidence,
            source: `column “${column.heading}”`,
          });
        else
          reading.problems.push({
            column: column.index,
            text: `“${value.slice(0, 60)}” ${WHAT[field] ?? 'cannot be used'}`,
          });
      }
  }
  const spelt = [names.given, names.family].filter(Boolean).join(' ');
  if (spelt && !reading.claims.some((claim) => claim.field === 'fullName'))
    add({
      field: 'fullName',
      value: parseName(spelt).fullName || spelt,
      confidence: 0.95,
      source: 'given and family name',
    });
  return reading;
}

function dayClaim(value: string, { dates }: Pick<TableShape, 'dates'>): Claim | null {
  const day = readDay(value, dates);
  return day ? { field: 'birthday', value: day, confidence: 0.95, source: '' } : null;
}

/** What makes two rows of one file the same person: the first address, else the first number, else name and firm. */
export function rowKey(claims: readonly Claim[]): string | null {
  const of = (field: Claim['field']): string | undefined =>
    claims.find((claim) => claim.field === field)?.value;
  const email = of('email');
  if (email) return `e:${normalizeEmail(email)}`;
  const phone = claims.find((claim) => claim.field === 'phone')?.normalized;
  const name = of('fullName');
  if (phone) return `p:${phone}:${name ?? ''}`;
  return name ? `n:${name.toLowerCase()}:${of('companyName')?.toLowerCase() ?? ''}` : null;
}
