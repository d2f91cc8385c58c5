import { parseCards } from '@emporikon/core/formats/vcard';
import { UnreadableTable } from '@emporikon/core/formats/limits';
import { readCardDetails, type CardDetails, type PlaceType } from '@emporikon/core/reading/card/details';
import { addressText, readCardClaims } from '@emporikon/core/reading/card/read';
import { readTable } from '@emporikon/core/reading/table/read';
import { localPart } from '@emporikon/core/people/emails';
import { nameFromLocalPart } from '@emporikon/core/people/names';
import { readRow, rowKey } from '@emporikon/core/reading/table/rows';
import type { Column, CustomLabel } from '@emporikon/core/reading/table/columns';
import type { Claim } from '@emporikon/core/reading/types';
import type { Mapping } from '@emporikon/contract/imports';
import type { PhoneType } from '@emporikon/core/people/phones';
import { invalid } from '../http/problems';

/** What one row says of one person, small enough to keep a hundred thousand of them. */
export interface RowData {
  name: string;
  title?: string;
  company?: string;
  address?: string;
  birthday?: string;
  timeZone?: string;
  note?: string;
  prefix?: string;
  department?: string;
  addressType?: PlaceType;
  addressParts?: string[];
  emails: { value: string; normalized: string; type?: PlaceType }[];
  phones: { value: string; normalized: string; type: PhoneType }[];
  links: { kind: 'url' | 'profile'; value: string; normalized: string }[];
  custom?: Record<string, string>;
  tags?: string[];
}

export interface SourceRow {
  row: number;
  data: RowData;
  key: string | null;
  /** Why the row cannot be used; empty when it can. */
  reason: string;
  /** What of a usable row cannot be kept; empty when all of it can. */
  leftOut: string;
  cells: string[];
}

const claimed = (claims: readonly Claim[], field: string): string | undefined =>
  claims.find((claim) => claim.field === field)?.value;

function dataOf(claims: readonly Claim[], tags: readonly string[]): RowData {
  const data: RowData = { name: claimed(claims, 'fullName') ?? '', emails: [], phones: [], links: [] };
  for (const claim of claims) {
    const normalized = claim.normalized ?? claim.value;
    if (claim.field === 'email') data.emails.push({ value: claim.value, normalized });
    else if (claim.field === 'phone')
      data.phones.push({ value: claim.value, normalized, type: claim.type ?? 'work' });
    else if (claim.field === 'url' || claim.field === 'profile')
      data.links.push({ kind: claim.field, value: claim.value, normalized });
    else if (claim.field === 'jobTitle') data.title = claim.value;
    else if (claim.field === 'companyName') data.company = claim.value;
    else if (claim.field === 'address') data.address = claim.value;
    else if (claim.field === 'birthday') data.birthday = claim.value;
    else if (claim.field === 'timeZone') data.timeZone = claim.value;
    else if (claim.field === 'note') data.note = claim.value;
    else if (claim.field.startsWith('custom:'))
      data.custom = { ...data.custom, [claim.field.slice('custom:'.length)]: claim.value };
  }
  if (tags.length) data.tags = [...tags];
  return data;
}

/** "anna.kuehn@…" names its owner where nothing else does; "info@…" names nobody. */
function nameByAddress(data: RowData): void {
  const [first] = data.emails;
  if (!data.name && first) data.name = nameFromLocalPart(localPart(first.normalized)) ?? '';
}

/** What keeps a row from being somebody. */
function unusable(data: RowData, problems: readonly string[]): string {
  if (!data.name && data.company) return 'it names a company and no person; import it as companies';
  if (data.name || data.emails.length) return '';
  return problems[0] ?? 'there is neither a name nor an address in it';
}

/** A table that is to be imported. @throws 422 for a workbook that is none, or for far more than a table would be */
export async function openTable(
  raw: Uint8Array,
  custom: readonly CustomLabel[],
  sheet: number,
): ReturnType<typeof readTable> {
  try {
    return await readTable(raw, custom, sheet);
  } catch (error) {
    if (error instanceof UnreadableTable) throw invalid(error.message);
    throw error;
  }
}

/** The rows of a table by a mapping, one after the other, so that a hundred thousand need not stand in memory twice. */
export async function* tableRows(raw: Buffer, mapping: Mapping, country: string): AsyncGenerator<SourceRow> {
  const { rows } = await openTable(raw, [], mapping.sheet ?? 0);
  const head = mapping.hasHead ? (rows[0] ?? []) : [];
  const body = mapping.hasHead ? rows.slice(1) : rows;
  const columns: Column[] = mapping.columns.map((column) => ({
    index: column.index,
    heading: head[column.index]?.trim() || `column ${column.index + 1}`,
    field: column.field,
    type: column.type,
    by: 'hand',
    samples: [],
    filled: 1,
  }));
  for (const [row, cells] of body.entries()) {
    const { claims, tags, problems } = readRow(
      cells,
      { columns, dates: mapping.dates },
      mapping.country ?? country,
    );
    const data = dataOf(claims, tags);
    nameByAddress(data);
    const said = problems.map((problem) => problem.text);
    const reason = unusable(data, said);
    yield { row, data, key: rowKey(claims), reason, leftOut: reason ? '' : said.join('; '), cells };
  }
}

/** A row with what its card says beside the claims. */
function withDetails(data: RowData, details: CardDetails): RowData {
  const { prefix, department, addressType, addressParts, emailTypes } = details;
  return {
    ...data,
    ...(prefix ? { prefix } : {}),
    ...(department ? { department } : {}),
    ...(addressParts && addressText(addressParts) === data.address
      ? { addressParts, ...(addressType ? { addressType } : {}) }
      : {}),
    emails: data.emails.map((email) => {
      const type = emailTypes[email.normalized];
      return type ? { ...email, type } : email;
    }),
  };
}

/** The same for a file of cards. */
export async function* cardRows(raw: Buffer, country: string): AsyncGenerator<SourceRow> {
  const { cards } = parseCards(raw);
  for (const [row, card] of cards.entries()) {
    const claims = readCardClaims(card, country);
    const details = readCardDetails(card);
    const data = withDetails(dataOf(claims, details.tags), details);
    if (!data.name && data.company) data.name = data.company;
    yield {
      row,
      data,
      key: rowKey(claims),
      reason: data.name || data.emails.length ? '' : 'there is neither a name nor an address in it',
      leftOut: '',
      cells: [data.name, data.company ?? ''],
    };
  }
}
