import type { TableRule } from '../db/tables';

/** One step of erasing a person. Names of values: `person`, and the lists of `PersonScope`, `emails`, `letters`, `mentions`. */
export interface EraseStatement {
  table: string;
  sql: string;
}

const CAPTURES = 'capture_id = ANY ($captures::uuid[])';
/** What in the outbox is about them, or about what goes with them. */
export const ABOUT = `about_id = ANY (array_append($own::uuid[] || $openTasks::uuid[] || $leads::uuid[] || $cases::uuid[] || $calls::uuid[], $person::uuid))`;

/** Takes originals, and what was read in them of nobody in particular; whatever else came from them loses only where it stood. */
export const CAPTURE_STATEMENTS: readonly EraseStatement[] = [
  {
    table: 'claims',
    sql: `UPDATE claims SET replaces = NULL WHERE replaces IN (SELECT id FROM claims WHERE ${CAPTURES} AND person_id IS NULL AND company_id IS NULL)`,
  },
  {
    table: 'claims',
    sql: `DELETE FROM claims WHERE ${CAPTURES} AND person_id IS NULL AND company_id IS NULL`,
  },
  { table: 'claims', sql: `UPDATE claims SET capture_id = NULL, span = NULL WHERE ${CAPTURES}` },
  { table: 'intents', sql: `DELETE FROM intents WHERE ${CAPTURES}` },
  { table: 'form_submissions', sql: `DELETE FROM form_submissions WHERE ${CAPTURES}` },
  { table: 'lead_answers', sql: `UPDATE lead_answers SET capture_id = NULL, span = NULL WHERE ${CAPTURES}` },
  { table: 'calls', sql: `UPDATE calls SET capture_id = NULL WHERE ${CAPTURES}` },
  { table: 'cases', sql: `UPDATE cases SET capture_id = NULL WHERE ${CAPTURES}` },
  { table: 'ledger_entries', sql: `UPDATE ledger_entries SET capture_id = NULL WHERE ${CAPTURES}` },
  { table: 'captures', sql: 'DELETE FROM captures WHERE id = ANY ($captures::uuid[])' },
];

/**
 * What goes beyond the rows that point to the person, in an order in which nothing is pointed to that is gone. Rows that are
 * counted somewhere stay without what they said.
 */
const BEFORE: readonly EraseStatement[] = [
  {
    table: 'claims',
    sql: 'UPDATE claims SET replaces = NULL WHERE replaces IN (SELECT id FROM claims WHERE person_id = $person::uuid)',
  },
  {
    table: 'claims',
    sql: 'UPDATE claims SET look_up_id = NULL WHERE look_up_id IN (SELECT id FROM look_ups WHERE person_id = $person::uuid)',
  },
  { table: 'lead_answers', sql: `DELETE FROM lead_answers WHERE lead_id = ANY ($leads::uuid[])` },
  ...CAPTURE_STATEMENTS,
  {
    table: 'cases',
    sql: `UPDATE cases SET title = 'Erased', words = '', solution = '', thread = NULL, capture_id = NULL, custom = '{}', version = version + 1 WHERE id = ANY ($cases::uuid[])`,
  },
  {
    table: 'ledger_entries',
    sql: `UPDATE ledger_entries SET headline = 'Erased', body = '', said = '', reading = NULL, capture_id = NULL, message_id = NULL, thread = NULL, pinned_at = NULL, version = version + 1 WHERE id = ANY ($own::uuid[])`,
  },
  { table: 'ledger_revisions', sql: 'DELETE FROM ledger_revisions WHERE entry_id = ANY ($own::uuid[])' },
  { table: 'annotations', sql: 'DELETE FROM annotations WHERE entry_id = ANY ($own::uuid[])' },
  {
    table: 'notices',
    sql: 'DELETE FROM notices WHERE entry_id = ANY ($own::uuid[]) OR lead_id = ANY ($leads::uuid[]) OR task_id = ANY ($openTasks::uuid[])',
  },
  {
    table: 'letters',
    sql: 'DELETE FROM letters WHERE id = ANY ($letters::uuid[])',
  },
  { table: 'files', sql: 'DELETE FROM files WHERE id = ANY ($files::uuid[])' },
  {
    table: 'file_contents',
    sql: `DELETE FROM file_contents c WHERE sha256 = ANY ($contents::text[]) AND NOT EXISTS (SELECT 1 FROM file_versions v WHERE v.sha256 = c.sha256) AND NOT EXISTS (SELECT 1 FROM letter_files l WHERE l.sha256 = c.sha256)`,
  },
  { table: 'tasks', sql: 'DELETE FROM tasks WHERE id = ANY ($openTasks::uuid[])' },
  {
    table: 'task_messages',
    sql: `DELETE FROM task_messages WHERE task_id IN (SELECT id FROM tasks WHERE person_id = $person::uuid)`,
  },
  {
    table: 'tasks',
    sql: `UPDATE tasks SET title = 'Erased', notes = '', checklist = '[]', asked = NULL, place = '', custom = '{}', version = version + 1 WHERE person_id = $person::uuid AND deal_id IS NULL AND project_id IS NULL`,
  },
  { table: 'invitations', sql: 'DELETE FROM invitations WHERE lower(email) = ANY ($emails::text[])' },
  {
    table: 'leads',
    sql: `UPDATE leads SET title = 'Erased', custom = '{}', version = version + 1 WHERE id = ANY ($leads::uuid[])`,
  },
  {
    table: 'outbox',
    sql: `DELETE FROM outbox WHERE ${ABOUT} OR payload::text ILIKE ANY ($mentions::text[]) OR state NOT IN ('waiting', 'sending') AND payload::text ILIKE ANY ($names::text[])`,
  },
  {
    table: 'merges',
    sql: 'DELETE FROM merges WHERE survivor_id = $person::uuid OR merged_id = $person::uuid',
  },
  { table: 'kept_apart', sql: 'DELETE FROM kept_apart WHERE one = $person::uuid OR other = $person::uuid' },
  { table: 'look_alikes', sql: 'DELETE FROM look_alikes WHERE $person::uuid = ANY (members)' },
  { table: 'hidden_matches', sql: 'DELETE FROM hidden_matches WHERE record_id = $person::uuid' },
  {
    table: 'bulk_rows',
    sql: `UPDATE bulk_rows SET outcome = 'stayed', why = '', before = NULL, after = NULL, made = NULL, entry_id = NULL WHERE record_id = ANY (array_append($leads::uuid[], $person::uuid)) AND outcome IS NOT NULL`,
  },
  { table: 'import_parts', sql: 'DELETE FROM import_parts WHERE import_id = ANY ($imports::uuid[])' },
  {
    table: 'import_rows',
    sql: `DELETE FROM import_rows r WHERE r.import_id = ANY ($imports::uuid[]) AND (r.data::text ILIKE ANY ($mentions::text[]) OR r.person_id IS NULL AND r.data ->> 'name' ILIKE ANY ($names::text[]))`,
  },
  {
    table: 'mailbox_messages',
    sql: 'DELETE FROM mailbox_messages WHERE lower(address) = ANY ($emails::text[])',
  },
  {
    table: 'mailbox_set_aside',
    sql: `UPDATE mailbox_set_aside SET sender = '' WHERE lower(sender) = ANY ($emails::text[])`,
  },
  { table: 'exports', sql: `DELETE FROM exports WHERE state <> 'running'` },
  {
    table: 'idempotency_keys',
    sql: 'DELETE FROM idempotency_keys WHERE body::text ILIKE ANY ($mentions::text[] || $names::text[])',
  },
  { table: 'turns', sql: 'DELETE FROM turns WHERE person_id = $person::uuid' },
  { table: 'places', sql: 'DELETE FROM places WHERE record_id = $person::uuid' },
  { table: 'looks', sql: 'DELETE FROM looks WHERE record_id = $person::uuid' },
  { table: 'worked_with', sql: 'DELETE FROM worked_with WHERE record_id = $person::uuid' },
  { table: 'round_later', sql: `DELETE FROM round_later WHERE key LIKE '%' || $person::text || '%'` },
];

const PERSON = `UPDATE people SET full_name = 'Erased person', given_name = '', family_name = '', name_prefix = '', department = '', name_key = 'erased ' || id,
    job_title = NULL, address = NULL, address_type = NULL, address_parts = NULL, time_zone = NULL, company_id = NULL, owner_id = NULL, birthday = NULL,
    background = NULL, custom = '{}', tags = '{}', rhythm_days = NULL, is_important = false, inactive_since = coalesce(inactive_since, $now::timestamptz),
    erased_at = $now::timestamptz, updated_at = $now::timestamptz, version = version + 1 WHERE id = $person::uuid`;

/** The words by which records were found, once nothing holds them any more. */
const AFTER: readonly EraseStatement[] = [
  { table: 'people', sql: PERSON },
  {
    table: 'tag_counts',
    sql: `DELETE FROM tag_counts WHERE tag = ANY ($tags::text[]) AND tag IN (SELECT tag FROM tag_counts WHERE tag = ANY ($tags::text[]) GROUP BY tag HAVING sum(records) = 0)`,
  },
  { table: 'find_words', sql: 'DELETE FROM find_words WHERE id = $person::uuid' },
  { table: 'find_records', sql: 'DELETE FROM find_records WHERE id = $person::uuid' },
  { table: 'find_places', sql: 'DELETE FROM find_places WHERE id = $person::uuid' },
  {
    table: 'find_vocabulary',
    sql: 'DELETE FROM find_vocabulary v WHERE v.word = ANY ($words::text[]) AND NOT EXISTS (SELECT 1 FROM find_words w WHERE w.word = v.word)',
  },
];

/** The rows that point to the person, as the capabilities say of their tables. */
const pointing = (tables: readonly TableRule[]): EraseStatement[] =>
  tables.flatMap(({ table, erase, refers = [] }) =>
    refers
      .filter(({ to }) => to === 'people')
      .flatMap(({ column }) =>
        erase === 'delete'
          ? [{ table, sql: `DELETE FROM ${table} WHERE ${column} = $person::uuid` }]
          : erase === 'unlink'
            ? [{ table, sql: `UPDATE ${table} SET ${column} = NULL WHERE ${column} = $person::uuid` }]
            : [],
      ),
  );

/** All that erasing one person takes, in order. */
export const eraseStatements = (tables: readonly TableRule[]): EraseStatement[] => [
  ...BEFORE,
  ...pointing(tables),
  ...AFTER,
];
