import type { ImportChoices } from '@emporikon/contract/imports';
import { nameKey, parseName } from '@emporikon/core/people/names';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { withTags } from '../people/organise';
import type { RowData } from './source';
import { contactsOf, insertContacts, type NewContact, type ReadyRow } from './contacts';

interface KnownRow {
  id: string;
  full_name: string;
  given_name: string;
  family_name: string;
  name_key: string;
  job_title: string | null;
  address: string | null;
  birthday: string | null;
  time_zone: string | null;
  background: string | null;
  company_id: string | null;
  custom: Record<string, string>;
  tags: string[];
  contacts: string[];
}

/** What became of a known person, and what stood there before; null where nothing was changed. */
export interface Patch {
  row: number;
  personId: string;
  before: { fields: Partial<KnownRow>; after: Partial<KnownRow>; contacts: string[] } | null;
}

interface How {
  choices: ImportChoices;
  companyOf: (data: RowData) => string | null;
}

/** The people some rows are of, with what they have. Locked, so that nobody changes them meanwhile. */
export async function knownRows(context: Context, rows: readonly ReadyRow[]): Promise<Map<string, KnownRow>> {
  const found = await context.sequelize.query<KnownRow>(
    `SELECT id, full_name, given_name, family_name, name_key, job_title, address, birthday, time_zone, background, company_id, custom, tags,
            ARRAY(SELECT kind || ':' || normalized FROM contact_points k WHERE k.person_id = people.id) AS contacts
       FROM people WHERE id = ANY($1::uuid[]) ORDER BY id FOR UPDATE`,
    { bind: [rows.map((row) => row.personId)], type: QueryTypes.SELECT, transaction: context.tx },
  );
  return new Map(found.map((row) => [row.id, row]));
}

const isText = (value: unknown): value is string => typeof value === 'string' && value !== '';

function changes(known: KnownRow, data: RowData, { choices, companyOf }: How): Partial<KnownRow> {
  const over = choices.known === 'overwrite';
  const patch: Partial<KnownRow> = {};
  const set = <Key extends keyof KnownRow>(key: Key, value: KnownRow[Key] | null | undefined): void => {
    if (!value || known[key] === value || (known[key] && !over)) return;
    patch[key] = value;
  };
  set('job_title', data.title);
  set('address', data.address);
  set('birthday', data.birthday);
  set('time_zone', data.timeZone);
  set('background', data.note);
  set('company_id', companyOf(data));
  if (over && data.name && nameKey(data.name) !== known.name_key) {
    const name = parseName(data.name);
    Object.assign(patch, {
      full_name: name.fullName,
      given_name: name.givenName,
      family_name: name.familyName,
      name_key: nameKey(name.fullName),
    });
  }
  const custom = Object.entries(data.custom ?? {}).filter(
    ([key, value]) => isText(value) && known.custom[key] !== value && (over || !known.custom[key]),
  );
  if (custom.length) patch.custom = { ...known.custom, ...Object.fromEntries(custom) };
  const tags = withTags(known.tags, [...(data.tags ?? []), ...choices.tags]);
  if (tags.length !== known.tags.length) patch.tags = tags;
  return patch;
}

/** Changes people who are known already, as the choices say: blanks filled, or everything overwritten. */
export async function patchKnown(
  context: Context,
  known: Map<string, KnownRow>,
  rows: readonly ReadyRow[],
  how: How,
): Promise<Patch[]> {
  const patches: Patch[] = [];
  const updates = new Map<string, KnownRow>();
  const contacts: NewContact[] = [];
  const given = new Set<string>();
  for (const row of rows) {
    const person = known.get(row.personId ?? '');
    if (!person) {
      patches.push({ row: row.row, personId: row.personId ?? '', before: null });
      continue;
    }
    const patch = changes(person, row.data, how);
    const more = contactsOf(context, person.id, row.data).filter((contact) => {
      const key = `${contact.kind}:${contact.normalized}`;
      if (person.contacts.includes(key) || (contact.kind === 'email' && given.has(key))) return false;
      person.contacts.push(key);
      if (contact.kind === 'email') given.add(key);
      return true;
    });
    if (!Object.keys(patch).length && !more.length) {
      patches.push({ row: row.row, personId: person.id, before: null });
      continue;
    }
    const fields = Object.fromEntries(Object.keys(patch).map((key) => [key, person[key as keyof KnownRow]]));
    patches.push({
      row: row.row,
      personId: person.id,
      before: { fields, after: patch, contacts: more.map((one) => one.id) },
    });
    Object.assign(person, patch);
    updates.set(person.id, person);
    contacts.push(...more);
  }
  await supersede(context, patches);
  await update(context, [...updates.values()]);
  await insertContacts(context, await freeContacts(context, contacts));
  return patches;
}

/** Contacts without the addresses that somebody else has, in the records or earlier in the same list: an address is on one person. */
export async function freeContacts(context: Context, contacts: readonly NewContact[]): Promise<NewContact[]> {
  const emails = contacts.filter((contact) => contact.kind === 'email').map((contact) => contact.normalized);
  if (!emails.length) return [...contacts];
  const rows = await context.sequelize.query<{ normalized: string }>(
    "SELECT normalized FROM contact_points WHERE kind = 'email' AND normalized = ANY($1::text[])",
    { bind: [emails], type: QueryTypes.SELECT, transaction: context.tx },
  );
  const taken = new Set(rows.map((row) => row.normalized));
  return contacts.filter((contact) => {
    if (contact.kind !== 'email') return true;
    if (taken.has(contact.normalized)) return false;
    taken.add(contact.normalized);
    return true;
  });
}

/** What a claim said before the import wrote over it is no longer what stands there. */
const CLAIMED: Record<string, string> = {
  job_title: 'jobTitle',
  address: 'address',
  birthday: 'birthday',
  time_zone: 'timeZone',
  company_id: 'companyName',
  full_name: 'fullName',
};

async function supersede(context: Context, patches: readonly Patch[]): Promise<void> {
  const gone = patches.flatMap(({ personId, before }) =>
    Object.keys(before?.fields ?? {}).flatMap((key) =>
      CLAIMED[key] ? [{ person_id: personId, field: CLAIMED[key] }] : [],
    ),
  );
  if (gone.length)
    await context.sequelize.query(
      `UPDATE claims c SET fate = 'superseded' FROM jsonb_to_recordset($1::jsonb) AS r(person_id uuid, field text)
        WHERE c.person_id = r.person_id AND c.field = r.field AND c.fate = 'current'`,
      { bind: [JSON.stringify(gone)], transaction: context.tx },
    );
}

export async function update(context: Context, rows: readonly KnownRow[]): Promise<void> {
  if (!rows.length) return;
  await context.sequelize.query(
    `UPDATE people p SET full_name = r.full_name, given_name = r.given_name, family_name = r.family_name, name_key = r.name_key, job_title = r.job_title,
            address = r.address, birthday = r.birthday, time_zone = r.time_zone, background = r.background, company_id = r.company_id,
            custom = r.custom, tags = ARRAY(SELECT jsonb_array_elements_text(r.tags)), version = p.version + 1, updated_at = $2
       FROM jsonb_to_recordset($1::jsonb) AS r(id uuid, full_name text, given_name text, family_name text, name_key text, job_title text, address text, birthday text, time_zone text, background text, company_id uuid, custom jsonb, tags jsonb)
      WHERE p.id = r.id`,
    { bind: [JSON.stringify(rows), context.now()], transaction: context.tx },
  );
}
