import type { ImportChoices, Mapping } from '@emporikon/contract/imports';
import { companyKey } from '@emporikon/core/people/companies';
import { readRecordRow, type RecordData, type RecordField } from '@emporikon/core/reading/table/records';
import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import { Deal, Stage } from '../db/models/deals';
import { Company, ContactPoint, Person } from '../db/models/people';
import { findOrMakeCompany } from '../companies/commands';
import { makeDeal } from '../deals/make';
import { openTable } from './source';

export interface RecordRow {
  row: number;
  data: RecordData;
  cells: string[];
  problems: string[];
}

/** The rows of a table of companies or deals by a mapping. */
export async function* recordRows(
  raw: Uint8Array,
  mapping: Mapping,
  house: { country: string; currency: string },
): AsyncGenerator<RecordRow> {
  const { rows } = await openTable(raw, [], mapping.sheet ?? 0);
  const how = { dates: mapping.dates, country: mapping.country ?? house.country, currency: house.currency };
  const columns = mapping.columns.filter((column) => column.field !== 'none');
  for (const [row, cells] of rows.slice(mapping.hasHead ? 1 : 0).entries()) {
    const given = columns.map(({ index, field }) => [field as RecordField, cells[index] ?? ''] as const);
    yield { row, cells, ...readRecordRow(given, how) };
  }
}

export interface RecordVerdict {
  verdict: 'new' | 'same' | 'unusable';
  reason: string;
  /** The record it is about, where we have it. */
  id: string | null;
}

const tx = (context: Context): { transaction: Context['tx'] } => ({ transaction: context.tx });

/** The company a row speaks of: by our id, else by its domain, else by its name. */
async function knownCompany(context: Context, data: RecordData): Promise<Company | null> {
  const id = data.companyId ?? data.recordId;
  if (id) return Company.findByPk(id, tx(context));
  if (data.domain) {
    const byDomain = await Company.findOne({ where: { domain: data.domain }, ...tx(context) });
    if (byDomain) return byDomain;
  }
  if (!data.companyName) return null;
  return Company.findOne({
    where: {
      nameKey: companyKey(data.companyName),
      ...(data.domain ? { domain: { [Op.is]: null } } : {}),
    },
    order: ['createdAt'],
    ...tx(context),
  });
}

async function judgeCompany(context: Context, data: RecordData): Promise<RecordVerdict> {
  const known = await knownCompany(context, data);
  if (data.recordId && !known)
    return { verdict: 'unusable', reason: 'there is no company with this ID', id: null };
  if (known) return { verdict: 'same', reason: '', id: known.id };
  return data.companyName
    ? { verdict: 'new', reason: '', id: null }
    : { verdict: 'unusable', reason: 'it names no company', id: null };
}

async function judgeDeal(context: Context, data: RecordData): Promise<RecordVerdict> {
  if (data.recordId) {
    const known = await Deal.findByPk(data.recordId, tx(context));
    return known
      ? { verdict: 'same', reason: '', id: known.id }
      : { verdict: 'unusable', reason: 'there is no deal with this ID', id: null };
  }
  if (!data.dealTitle) return { verdict: 'unusable', reason: 'it has no title', id: null };
  if (data.companyId && !(await Company.findByPk(data.companyId, tx(context))))
    return { verdict: 'unusable', reason: 'there is no company with this ID', id: null };
  if (data.stage && !(await stageOf(context, data.stage)))
    return { verdict: 'unusable', reason: `there is no stage “${data.stage}”`, id: null };
  return { verdict: 'new', reason: '', id: null };
}

const stageOf = (context: Context, name: string): Promise<Stage | null> =>
  Stage.findOne({
    where: { name: { [Op.iLike]: name.replace(/[\\%_]/g, '\\$&') } },
    order: ['position'],
    ...tx(context),
  });

export const judgeRecord = (
  context: Context,
  target: 'companies' | 'deals',
  data: RecordData,
): Promise<RecordVerdict> =>
  target === 'companies' ? judgeCompany(context, data) : judgeDeal(context, data);

export type RecordOutcome = 'made' | 'changed' | 'left alone' | 'rejected';

/** What of a row is put on a record that is there: blanks, or everything, as the choices say. */
function patchOf<Row extends object>(
  row: Row,
  given: Partial<Row>,
  known: ImportChoices['known'],
): Partial<Row> {
  const wanted = Object.entries(given).filter(
    ([key, value]) =>
      value !== undefined &&
      value !== row[key as keyof Row] &&
      (known === 'overwrite' || row[key as keyof Row] === null || row[key as keyof Row] === undefined),
  );
  return known === 'skip' ? {} : (Object.fromEntries(wanted) as Partial<Row>);
}

async function writeCompany(
  context: Context,
  data: RecordData,
  choices: ImportChoices,
): Promise<RecordOutcome> {
  const { verdict, id } = await judgeCompany(context, data);
  if (verdict === 'unusable') return 'rejected';
  const company = id
    ? await Company.findByPk(id, { ...tx(context), lock: true })
    : await findOrMakeCompany(context, data.companyName ?? '', data.domain ?? null);
  if (!company) return 'rejected';
  const { domain, phone, address, country, industry, employees } = data;
  const patch = patchOf(
    company,
    { domain, phone, address, country, industry, employees } as Partial<Company>,
    id ? choices.known : 'overwrite',
  );
  const owner = !id && choices.ownerId ? { ownerId: choices.ownerId } : {};
  if (Object.keys(patch).length || Object.keys(owner).length)
    await context.write.update(company, { ...patch, ...owner, updatedAt: context.now() });
  return id ? (Object.keys(patch).length ? 'changed' : 'left alone') : 'made';
}

async function writeDeal(context: Context, data: RecordData, choices: ImportChoices): Promise<RecordOutcome> {
  const { verdict, id } = await judgeDeal(context, data);
  if (verdict === 'unusable') return 'rejected';
  const stage = data.stage ? await stageOf(context, data.stage) : null;
  const { amountMinor, currency, expectedClose } = data;
  if (id) {
    const deal = await Deal.findByPk(id, { ...tx(context), lock: true });
    if (!deal) return 'rejected';
    const patch = patchOf(deal, { amountMinor, currency, expectedClose } as Partial<Deal>, choices.known);
    if (!Object.keys(patch).length) return 'left alone';
    await context.write.update(deal, { ...patch, updatedAt: context.now() });
    return 'changed';
  }
  const company =
    (await knownCompany(context, { ...data, recordId: undefined } as RecordData)) ??
    (data.companyName ? await findOrMakeCompany(context, data.companyName, data.domain ?? null) : null);
  const contact = data.email
    ? await ContactPoint.findOne({ where: { kind: 'email', normalized: data.email }, ...tx(context) })
    : null;
  const person = contact ? await Person.findByPk(contact.personId, tx(context)) : null;
  await makeDeal(context, person?.id ?? null, {
    title: data.dealTitle ?? '',
    companyId: company?.id ?? person?.companyId ?? null,
    leadId: null,
    stageId: stage?.id,
    amountMinor: amountMinor ?? null,
    currency: currency ?? context.house.currency,
    expectedClose: expectedClose ?? null,
    ownerId: choices.ownerId ?? context.actor?.id ?? '',
  });
  return 'made';
}

/** Writes one row. What it comes to is part of the chunk's event and taken back with it. */
export const writeRecord = (
  context: Context,
  target: 'companies' | 'deals',
  data: RecordData,
  choices: ImportChoices,
): Promise<RecordOutcome> =>
  target === 'companies' ? writeCompany(context, data, choices) : writeDeal(context, data, choices);
