import { companyKey } from '@emporikon/core/people/companies';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { Import } from '../db/models/imports';
import { companyIds } from './companies';
import { copyRows, orderedId } from './copy';
import { importConsents } from './consents';
import { contactsOf, insertContacts, type ReadyRow } from './contacts';
import { freeContacts, knownRows, patchKnown, type Patch } from './patch';
import type { RowData } from './source';
import { choicesOf } from './view';

export interface Outcome {
  row: number;
  outcome: 'made' | 'changed' | 'left alone' | 'rejected';
  person_id: string | null;
  before: unknown;
  /** What of it could not be kept; left out when all of it was. */
  reason?: string;
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

const BIRTHDAY = /^(?:\d{4}|-)-\d\d-\d\d$/;

/**
 * Writes the rows of one chunk: people made and changed, with their contacts, tags and list, and for each row what became
 * of it and what stood there before. What the rows say is not written as claims anew: the rows are the evidence.
 */
export async function writeRows(context: Context, one: Import, rows: readonly ReadyRow[]): Promise<void> {
  const choices = choicesOf(one);
  const outcomes: Outcome[] = [];
  const emails = new Map<string, string>();
  const making: { row: ReadyRow; id: string }[] = [];
  const changing: ReadyRow[] = [];
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
      const id = orderedId(context.now().getTime());
      making.push({ row, id });
      for (const email of row.data.emails) emails.set(email.normalized, id);
    }
  }
  const ids = await companyIds(
    context,
    [...making.map((each) => each.row), ...changing].map((row) => row.data),
  );
  const companyOf = (data: RowData): string | null =>
    data.company ? (ids.get(companyKey(data.company)) ?? null) : null;
  const contacts = making.flatMap(({ row, id }) => contactsOf(context, id, row.data));
  const free = await freeContacts(context, contacts);
  await withSearchWordsOnce(
    context,
    making.map((each) => each.id),
    async () => {
      await makePeople(context, one, making, companyOf);
      await insertContacts(context, free);
    },
  );
  const made = new Map(
    making.map(({ row, id }): [string, Outcome] => [
      id,
      { row: row.row, outcome: 'made', person_id: id, before: null },
    ]),
  );
  outcomes.push(...made.values());
  const isFree = new Set(free);
  const leftOut = new Map<string, string[]>();
  for (const contact of contacts)
    if (!isFree.has(contact))
      leftOut.set(contact.person_id, [...(leftOut.get(contact.person_id) ?? []), contact.value]);
  const patches: Patch[] = changing.length
    ? await patchKnown(context, await knownRows(context, changing), changing, { choices, companyOf })
    : [];
  for (const [person, values] of leftOut) {
    const outcome = made.get(person);
    if (outcome) outcome.reason = `left out: ${values.join(', ')} is the address of somebody else`;
  }
  outcomes.push(
    ...patches.map((patch): Outcome => ({
      row: patch.row,
      outcome: patch.before ? 'changed' : 'left alone',
      person_id: patch.personId,
      before: patch.before,
    })),
  );
  if (choices.listId) await enlist(context, choices.listId, outcomes);
  if (choices.consent)
    await importConsents(context, one, choices, [
      ...making.flatMap(({ row, id }) => (row.data.emails.length ? [id] : [])),
      ...changing.flatMap(({ data, personId }) => (data.emails.length && personId ? [personId] : [])),
    ]);
  await bulk(
    context,
    `UPDATE import_rows i SET outcome = r.outcome, person_id = r.person_id, before = r.before, reason = coalesce(r.reason, i.reason)
       FROM jsonb_to_recordset($rows::jsonb) AS r(row integer, outcome text, person_id uuid, before jsonb, reason text)
      WHERE i.import_id = $import::uuid AND i.row = r.row`,
    outcomes,
    { import: one.id },
  );
}

const PEOPLE = [
  'id',
  'full_name',
  'given_name',
  'family_name',
  'name_key',
  'job_title',
  'address',
  'birthday',
  'time_zone',
  'background',
  'name_prefix',
  'department',
  'address_type',
  'address_parts',
  'company_id',
  'standing',
  'owner_id',
  'custom',
  'tags',
  'visibility',
  'visible_to',
  'created_at',
  'updated_at',
];

/** Writes the search words of new people once, after their names and addresses are there, and not with each of the two. */
async function withSearchWordsOnce(
  context: Context,
  ids: readonly string[],
  write: () => Promise<void>,
): Promise<void> {
  const later = (state: 'on' | 'off'): Promise<unknown> =>
    context.sequelize.query(`SET LOCAL emporikon.find_later = ${state}`, { transaction: context.tx });
  await later('on');
  await write();
  await later('off');
  await context.sequelize.query('SELECT find_add($ids::uuid[])', {
    bind: { ids },
    transaction: context.tx,
  });
}

/** Who may see people that are made without a word about it. */
async function defaultVisibility(context: Context): Promise<{ visibility: string; visible_to: string[] }> {
  const [row] = await context.sequelize.query<{ visibility: string; visible_to: string[] }>(
    "SELECT visibility, visible_to FROM visibility_defaults WHERE kind = 'people' AND source IS NULL",
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row ?? { visibility: 'everybody', visible_to: [] };
}

async function makePeople(
  context: Context,
  one: Import,
  making: readonly { row: ReadyRow; id: string }[],
  companyOf: (data: RowData) => string | null,
): Promise<void> {
  const choices = choicesOf(one);
  const { visibility, visible_to: visibleTo } = await defaultVisibility(context);
  const owner = choices.ownerId ?? one.createdBy;
  const now = context.now().toISOString();
  await copyRows(
    context,
    'people',
    PEOPLE,
    making.map(({ row: { data }, id }) => {
      const shown = data.name || (data.emails[0]?.value ?? '');
      const name = data.name ? parseName(data.name) : { fullName: shown, givenName: '', familyName: '' };
      const fullName = name.fullName || shown;
      return [
        id,
        fullName,
        name.givenName,
        name.familyName,
        nameKey(fullName),
        data.title,
        data.address,
        BIRTHDAY.test(data.birthday ?? '') ? data.birthday : null,
        data.timeZone,
        data.note,
        data.prefix ?? '',
        data.department ?? '',
        data.addressType,
        data.addressParts,
        companyOf(data),
        'stranger',
        owner,
        data.custom ?? {},
        [...new Set([...(data.tags ?? []), ...choices.tags])],
        visibility,
        visibleTo,
        now,
        now,
      ];
    }),
  );
}

async function enlist(context: Context, listId: string, outcomes: readonly Outcome[]): Promise<void> {
  const ids = [
    ...new Set(outcomes.map((outcome) => outcome.person_id).filter((id): id is string => id !== null)),
  ];
  await bulk(
    context,
    `INSERT INTO list_members (id, list_id, person_id, created_at)
     SELECT id, $list::uuid, person_id, $now FROM jsonb_to_recordset($rows::jsonb) AS r(id uuid, person_id uuid) ON CONFLICT DO NOTHING`,
    ids.map((person_id) => ({ id: context.newId(), person_id })),
    { list: listId },
  );
}
