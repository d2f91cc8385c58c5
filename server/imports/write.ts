import { companyKey } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Import } from '../db/models/imports';
import { knownRows, patchKnown, type Patch } from './patch';
import type { RowData } from './source';
import { choicesOf } from './view';

export interface ReadyRow {
  row: number;
  data: RowData;
  act: 'make' | 'change' | 'leave' | 'reject';
  personId: string | null;
}

export interface NewContact {
  id: string;
  person_id: string;
  kind: string;
  value: string;
  normalized: string;
  type: string | null;
  consent: string | null;
}
export interface NewClaim {
  id: string;
  person_id: string;
  field: string;
  value: string;
  normalized: string | null;
  type: string | null;
  source: string;
}
export interface Outcome {
  row: number;
  outcome: 'made' | 'changed' | 'left alone' | 'rejected';
  person_id: string | null;
  before: unknown;
}

const bulk = (
  context: Context,
  sql: string,
  rows: readonly unknown[],
  more: Record<string, unknown> = {},
): Promise<unknown> =>
  rows.length
    ? context.sequelize.query(sql, {
        bind: { rows: JSON.stringify(rows).replace(/\\u0000/g, ''), now: context.now(), ...more },
        transaction: context.tx,
      })
    : Promise.resolve();

/**
 * The companies of some rows by the key of their names, found or made.
 * @returns ids by key, and which of them are new
 */
async function companiesFor(
  context: Context,
  rows: readonly ReadyRow[],
  ownerId: string | null,
): Promise<{ ids: Map<string, string>; made: Set<string> }> {
  const wanted = new Map<string, { id: string; name: string; name_key: string; domain: string | null }>();
  for (const { data } of rows) {
    const key = data.company ? companyKey(data.company) : '';
    if (!key || wanted.has(key)) continue;
    const domain =
      data.emails.map((one) => companyDomain(one.normalized)).find((one) => one !== null) ?? null;
    wanted.set(key, { id: context.newId(), name: data.company ?? '', name_key: key, domain });
  }
  if (!wanted.size) return { ids: new Map(), made: new Set() };
  const find = async (): Promise<Map<string, string>> => {
    const found = await context.sequelize.query<{ id: string; name_key: string }>(
      'SELECT DISTINCT ON (name_key) id, name_key FROM companies WHERE name_key = ANY($1::text[]) ORDER BY name_key, created_at',
      { bind: [[...wanted.keys()]], type: QueryTypes.SELECT, transaction: context.tx },
    );
    return new Map(found.map((one) => [one.name_key, one.id]));
  };
  const ids = await find();
  const missing = [...wanted.values()].filter((one) => !ids.has(one.name_key));
  const domains = await context.sequelize.query<{ id: string; domain: string }>(
    'SELECT id, domain FROM companies WHERE domain = ANY($1::text[])',
    {
      bind: [missing.map((one) => one.domain).filter(Boolean)],
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const byDomain = new Map(domains.map((one) => [one.domain, one.id]));
  const fresh = new Map<string, (typeof missing)[number]>();
  for (const one of missing) {
    const known = one.domain ? byDomain.get(one.domain) : undefined;
    if (known) ids.set(one.name_key, known);
    else {
      if (one.domain) byDomain.set(one.domain, one.id);
      fresh.set(one.name_key, one);
      ids.set(one.name_key, one.id);
    }
  }
  await bulk(
    context,
    `INSERT INTO companies (id, name, name_key, domain, owner_id, created_at, updated_at)
     SELECT id, name, name_key, domain, $owner::uuid, $now, $now FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, name text, name_key text, domain text)`,
    [...fresh.values()],
    { owner: ownerId },
  );
  return { ids, made: new Set([...fresh.values()].map((one) => one.id)) };
}

export const insertContacts = (context: Context, contacts: readonly NewContact[]): Promise<unknown> =>
  bulk(
    context,
    `INSERT INTO contact_points (id, person_id, kind, value, normalized, type, consent, consent_at, consent_source, created_at)
     SELECT id, person_id, kind, value, normalized, type, consent, CASE WHEN consent IS NULL THEN NULL ELSE $now::timestamptz END, CASE WHEN consent IS NULL THEN NULL ELSE 'import' END, $now
       FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, person_id uuid, kind text, value text, normalized text, type text, consent text)`,
    contacts,
  );

export const insertClaims = (context: Context, claims: readonly NewClaim[]): Promise<unknown> =>
  bulk(
    context,
    `INSERT INTO claims (id, person_id, field, value, normalized, type, confidence, source, fate, created_at)
     SELECT id, person_id, field, left(value, 2000), normalized, type, 0.95, source, 'current', $now
       FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, person_id uuid, field text, value text, normalized text, type text, source text)`,
    claims,
  );

/** What a row says, as claims with the file and the row as their source. */
export function claimsOf(context: Context, personId: string, data: RowData, source: string): NewClaim[] {
  const claim = (
    field: string,
    value: string,
    normalized: string | null = null,
    type: string | null = null,
  ): NewClaim => ({
    id: context.newId(),
    person_id: personId,
    field,
    value,
    normalized,
    type,
    source,
  });
  const single: [string, string | undefined][] = [
    ['fullName', data.name],
    ['jobTitle', data.title],
    ['companyName', data.company],
    ['address', data.address],
    ['birthday', data.birthday],
    ['timeZone', data.timeZone],
    ['note', data.note],
    ...Object.entries(data.custom ?? {}).map(([key, value]): [string, string] => [`custom:${key}`, value]),
  ];
  return [
    ...single.flatMap(([field, value]) => (value ? [claim(field, value)] : [])),
    ...data.emails.map((one) => claim('email', one.value, one.normalized)),
    ...data.phones.map((one) => claim('phone', one.value, one.normalized, one.type)),
    ...data.links.map((one) => claim(one.kind, one.value, one.normalized)),
  ];
}

export function contactsOf(
  context: Context,
  personId: string,
  data: RowData,
  consent: string | null,
): NewContact[] {
  const seen = new Set<string>();
  const contact = (kind: string, value: string, normalized: string, type: string | null): NewContact[] => {
    const key = `${kind}:${normalized}`;
    if (seen.has(key)) return [];
    seen.add(key);
    return [
      {
        id: context.newId(),
        person_id: personId,
        kind,
        value,
        normalized,
        type,
        consent: kind === 'email' ? consent : null,
      },
    ];
  };
  return [
    ...data.emails.flatMap((one) => contact('email', one.value, one.normalized, null)),
    ...data.phones.flatMap((one) => contact('phone', one.value, one.normalized, one.type)),
    ...data.links.flatMap((one) => contact(one.kind, one.value, one.normalized, null)),
  ];
}

const BIRTHDAY = /^(?:\d{4}|-)-\d\d-\d\d$/;

/**
 * Writes the rows of one chunk: people made and changed, with their companies, contacts, claims, tags and list, and for
 * each row what became of it and what stood there before.
 */
export async function writeRows(context: Context, one: Import, rows: readonly ReadyRow[]): Promise<void> {
  const choices = choicesOf(one);
  const owner = choices.ownerId ?? one.createdBy;
  const outcomes: Outcome[] = [];
  const emails = new Map<string, string>();
  const making: { row: ReadyRow; id: string }[] = [];
  const changing: ReadyRow[] = [];
  const sourceOf = (row: number): string => `${one.name}, row ${row + 1}`;
  for (const row of rows) {
    if (row.act === 'reject')
      outcomes.push({ row: row.row, outcome: 'rejected', person_id: null, before: null });
    else if (row.act === 'leave')
      outcomes.push({ row: row.row, outcome: 'left alone', person_id: row.personId, before: null });
    else if (row.act === 'change') changing.push(row);
    else {
      const twin = row.data.emails.map((email) => emails.get(email.normalized)).find(Boolean);
      if (twin) {
        changing.push({ ...row, personId: twin });
        continue;
      }
      const id = context.newId();
      making.push({ row, id });
      for (const email of row.data.emails) emails.set(email.normalized, id);
    }
  }
  const { ids, made } = await companiesFor(context, [...making.map((each) => each.row), ...changing], owner);
  const companyOf = (data: RowData): string | null =>
    data.company ? (ids.get(companyKey(data.company)) ?? null) : null;
  const firstOf = new Set<string>();
  await bulk(
    context,
    `INSERT INTO people (id, full_name, given_name, family_name, name_key, job_title, address, birthday, time_zone, background, company_id, standing, owner_id, custom, tags, created_at, updated_at)
     SELECT id, full_name, given_name, family_name, name_key, job_title, address, birthday, time_zone, background, company_id, 'stranger', $owner::uuid, coalesce(custom, '{}'), ARRAY(SELECT jsonb_array_elements_text(tags)), $now, $now
       FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, full_name text, given_name text, family_name text, name_key text, job_title text, address text, birthday text, time_zone text, background text, company_id uuid, custom jsonb, tags jsonb)`,
    making.map(({ row: { row, data }, id }) => {
      const fullName = data.name || (data.emails[0]?.value ?? '');
      const name = data.name ? parseName(data.name) : { fullName, givenName: '', familyName: '' };
      const company = companyOf(data);
      const isFirst = company !== null && made.has(company) && !firstOf.has(company);
      if (isFirst && company) firstOf.add(company);
      outcomes.push({ row, outcome: 'made', person_id: id, before: isFirst ? { company } : null });
      return {
        id,
        full_name: name.fullName || fullName,
        given_name: name.givenName,
        family_name: name.familyName,
        name_key: nameKey(name.fullName || fullName),
        job_title: data.title ?? null,
        address: data.address ?? null,
        birthday: BIRTHDAY.test(data.birthday ?? '') ? data.birthday : null,
        time_zone: data.timeZone ?? null,
        background: data.note ?? null,
        company_id: company,
        custom: data.custom ?? {},
        tags: [...new Set([...(data.tags ?? []), ...choices.tags])],
      };
    }),
    { owner },
  );
  await insertContacts(
    context,
    making.flatMap(({ row, id }) => contactsOf(context, id, row.data, choices.consent)),
  );
  await insertClaims(
    context,
    making.flatMap(({ row, id }) => claimsOf(context, id, row.data, sourceOf(row.row))),
  );
  const patches: Patch[] = changing.length
    ? await patchKnown(context, await knownRows(context, changing), changing, {
        choices,
        companyOf,
        sourceOf,
      })
    : [];
  outcomes.push(
    ...patches.map((patch): Outcome => ({
      row: patch.row,
      outcome: patch.before ? 'changed' : 'left alone',
      person_id: patch.personId,
      before: patch.before,
    })),
  );
  if (choices.listId) await enlist(context, choices.listId, outcomes);
  await bulk(
    context,
    `UPDATE import_rows i SET outcome = r.outcome, person_id = r.person_id, before = r.before
       FROM jsonb_to_recordset($rows::jsonb) AS r(row integer, outcome text, person_id uuid, before jsonb)
      WHERE i.import_id = $import::uuid AND i.row = r.row`,
    outcomes,
    { import: one.id },
  );
}

async function enlist(context: Context, listId: string, outcomes: readonly Outcome[]): Promise<void> {
  const ids = [...new Set(outcomes.map((one) => one.person_id).filter((id): id is string => id !== null))];
  await bulk(
    context,
    `INSERT INTO list_members (id, list_id, person_id, created_at)
     SELECT id, $list::uuid, person_id, $now FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, person_id uuid) ON CONFLICT DO NOTHING`,
    ids.map((person_id) => ({ id: context.newId(), person_id })),
    { list: listId },
  );
}
