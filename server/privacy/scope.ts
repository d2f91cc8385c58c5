import type { Identity } from '@emporikon/core/privacy/redact';
import { companyKey } from '@emporikon/core/people/companies';
import type { Context } from '../commands/context';
import { ask } from './sql';

/** All rows that say something of one person, by where they stand. */
export interface PersonScope {
  person: string;
  /** Entries with them alone, whose text is theirs. */
  own: string[];
  /** Entries that others have a part in, and what the program noted of changes. */
  shared: string[];
  captures: string[];
  leads: string[];
  deals: string[];
  projects: string[];
  cases: string[];
  calls: string[];
  /** Tasks with them that stand for nothing else, still open. */
  openTasks: string[];
  /** All other tasks with them. */
  tasks: string[];
  files: string[];
  imports: string[];
}

export interface KnownPerson {
  fullName: string;
  nameKey: string;
  companyName: string | null;
  contacts: { id: string; kind: string; value: string; normalized: string }[];
  tags: string[];
  /** Records that became one with theirs, and rows of those that were double. */
  merged: { id: string; fullName: string }[];
  /** What else was said of their names and addresses, in captures and by hand. */
  claims: { id: string; field: string; value: string; normalized: string | null }[];
}

/** Whom it is about. @returns null where there is nobody under this id */
export async function loadKnown(context: Context, person: string): Promise<KnownPerson | null> {
  const [known] = await ask<KnownPerson>(
    context,
    `SELECT p.full_name AS "fullName", p.name_key AS "nameKey", (SELECT name FROM companies c WHERE c.id = p.company_id) AS "companyName",
            coalesce((SELECT jsonb_agg(jsonb_build_object('id', id, 'kind', kind, 'value', value, 'normalized', normalized)) FROM contact_points k WHERE k.person_id = p.id), '[]') AS contacts,
            coalesce((SELECT jsonb_agg(jsonb_build_object('id', id, 'field', field, 'value', value, 'normalized', normalized)) FROM claims k WHERE k.person_id = p.id), '[]') AS claims,
            p.tags, coalesce((SELECT jsonb_agg(m) FROM (
              SELECT g.merged_id AS id, coalesce(g.moved -> 'record' ->> 'full_name', '') AS "fullName" FROM merges g WHERE g.survivor_id = p.id
              UNION ALL SELECT (d -> 'row' ->> 'id')::uuid, '' FROM merges g, jsonb_array_elements(g.moved -> 'doubles') d WHERE g.survivor_id = p.id AND d -> 'row' ->> 'id' IS NOT NULL) m), '[]') AS merged
       FROM people p WHERE p.id = $person::uuid AND p.erased_at IS NULL`,
    { person },
  );
  return known ?? null;
}

const LETTERS = new Set(['email', 'profile', 'address']);

/** By what they are told in texts. */
export function identityOf({ fullName, contacts, claims, merged }: KnownPerson): Identity {
  const said = (field: string): string[] =>
    claims.flatMap((claim) => (claim.field === field ? [claim.value] : []));
  const names = [fullName, ...merged.map((one) => one.fullName), ...said('fullName')];
  return {
    names: [
      ...names,
      ...names.flatMap((name) => name.split(/[\s,]+/)),
      ...said('givenName'),
      ...said('familyName'),
    ],
    exact: [
      ...contacts
        .filter(({ kind }) => LETTERS.has(kind))
        .flatMap(({ value, normalized }) => [value, normalized]),
      ...claims
        .filter(({ field }) => LETTERS.has(field))
        .flatMap(({ value, normalized }) => [value, ...(normalized ? [normalized] : [])]),
    ],
    phones: [
      ...contacts.filter(({ kind }) => kind === 'phone').map(({ normalized }) => normalized),
      ...claims.filter(({ field }) => field === 'phone').map(({ value, normalized }) => normalized ?? value),
    ],
  };
}

/**
 * By what they would be known again: addresses and pages, a number together with the name (a firm's is that of all who work
 * there), and the name at the firm.
 */
export function keysOf({ nameKey, companyName, contacts }: KnownPerson): string[] {
  const firm = companyName ? companyKey(companyName) : '';
  return [
    ...contacts.flatMap(({ kind, normalized }) =>
      kind === 'url' ? [] : kind === 'phone' ? `phone:${normalized}|${nameKey}` : `${kind}:${normalized}`,
    ),
    ...(nameKey && firm ? [`name:${nameKey}|${firm}`] : []),
  ];
}

const ids = async (context: Context, sql: string, values: Record<string, unknown>): Promise<string[]> =>
  (await ask<{ id: string }>(context, sql, values)).map(({ id }) => id);

/** Entries that are the program's own notes, or a paper that has to be kept: only what names the person goes. */
const KEPT_KINDS = "('change', 'quote')";
const OTHERS = `EXISTS (SELECT 1 FROM ledger_links o WHERE o.entry_id = e.id AND o.person_id <> $person::uuid)`;

interface Found extends Pick<PersonScope, 'leads' | 'cases' | 'calls' | 'deals'> {
  person: string;
}

/** Entries with them: those whose text is theirs alone, and all others. */
async function loadEntries(
  context: Context,
  { person, leads, cases, deals }: Found,
): Promise<{ own: string[]; shared: string[]; about: string[] }> {
  const entries = await ask<{ id: string; is_own: boolean; is_about: boolean }>(
    context,
    `SELECT e.id, e.kind NOT IN ${KEPT_KINDS} AND NOT ${OTHERS} AS is_own, l.is_about
       FROM (SELECT entry_id, bool_or(person_id = $person::uuid OR lead_id = ANY ($leads::uuid[]) OR case_id = ANY ($cases::uuid[])) IS TRUE AS is_about FROM ledger_links
              WHERE person_id = $person::uuid OR lead_id = ANY ($leads::uuid[]) OR case_id = ANY ($cases::uuid[]) OR deal_id = ANY ($deals::uuid[]) GROUP BY 1) l
       JOIN ledger_entries e ON e.id = l.entry_id`,
    { person, leads, cases, deals },
  );
  const idsOf = (which: (entry: (typeof entries)[number]) => boolean): string[] =>
    entries.filter(which).map(({ id }) => id);
  return {
    own: idsOf((entry) => entry.is_own && entry.is_about),
    shared: idsOf((entry) => !(entry.is_own && entry.is_about)),
    about: idsOf((entry) => entry.is_about),
  };
}

/** Originals that came with their entries, facts, calls, forms, cases and answers, and what waits in Arrivals from them. */
const loadCaptures = (
  context: Context,
  { person, leads, cases, calls }: Found,
  about: readonly string[],
  { contacts }: KnownPerson,
): Promise<string[]> =>
  ids(
    context,
    `SELECT capture_id AS id FROM ledger_entries WHERE id = ANY ($about::uuid[]) AND capture_id IS NOT NULL
      UNION SELECT capture_id FROM claims WHERE person_id = $person::uuid AND capture_id IS NOT NULL
      UNION SELECT capture_id FROM calls WHERE id = ANY ($calls::uuid[]) AND capture_id IS NOT NULL
      UNION SELECT capture_id FROM form_submissions WHERE person_id = $person::uuid
      UNION SELECT capture_id FROM cases WHERE id = ANY ($cases::uuid[]) AND capture_id IS NOT NULL
      UNION SELECT capture_id FROM lead_answers WHERE lead_id = ANY ($leads::uuid[]) AND capture_id IS NOT NULL
      UNION SELECT c.id FROM captures c JOIN claims k ON k.capture_id = c.id
             WHERE c.state <> 'filed' AND k.field IN ('email', 'profile') AND k.normalized = ANY ($keys::text[])`,
    {
      ...{ about, person, calls, cases, leads },
      keys: contacts.filter(({ kind }) => PERSONAL.has(kind)).map(({ normalized }) => normalized),
    },
  );

/** Tasks with them: open ones that stand for nothing else, and all others. */
async function loadTasks(
  context: Context,
  { person, leads, cases, deals }: Found,
): Promise<Pick<PersonScope, 'openTasks' | 'tasks'>> {
  const tasks = await ask<{ id: string; is_theirs: boolean }>(
    context,
    `SELECT t.id, t.done_at IS NULL AND t.deal_id IS NULL AND t.project_id IS NULL AND t.company_id IS NULL
            AND (t.person_id = $person::uuid OR t.lead_id = ANY ($leads::uuid[]) OR t.case_id = ANY ($cases::uuid[])) AS is_theirs
       FROM tasks t WHERE t.person_id = $person::uuid OR t.lead_id = ANY ($leads::uuid[]) OR t.case_id = ANY ($cases::uuid[]) OR t.deal_id = ANY ($deals::uuid[])
         OR t.id IN (SELECT task_id FROM task_people WHERE person_id = $person::uuid)`,
    { person, leads, cases, deals },
  );
  return {
    openTasks: tasks.flatMap(({ id, is_theirs }) => (is_theirs ? [id] : [])),
    tasks: tasks.flatMap(({ id, is_theirs }) => (is_theirs ? [] : [id])),
  };
}

/** Finds everything that says something of a person, whether or not whoever asks may see it. */
export async function loadScope(context: Context, person: string, known: KnownPerson): Promise<PersonScope> {
  const leads = await ids(context, 'SELECT id FROM leads WHERE person_id = $person::uuid', { person });
  const cases = await ids(context, 'SELECT id FROM cases WHERE person_id = $person::uuid', { person });
  const calls = await ids(context, 'SELECT id FROM calls WHERE person_id = $person::uuid', { person });
  const deals = await ids(
    context,
    `SELECT deal_id AS id FROM deal_roles WHERE person_id = $person::uuid UNION SELECT deal_id FROM leads WHERE person_id = $person::uuid AND deal_id IS NOT NULL
      UNION SELECT d.id FROM deals d WHERE d.lead_id = ANY ($leads::uuid[])`,
    { person, leads },
  );
  const projects = await ids(
    context,
    'SELECT project_id AS id FROM project_people WHERE person_id = $person::uuid UNION SELECT id FROM projects WHERE deal_id = ANY ($deals::uuid[])',
    { person, deals },
  );
  const found = { person, leads, cases, calls, deals };
  const { own, shared, about } = await loadEntries(context, found);
  const { openTasks, tasks } = await loadTasks(context, found);
  const captures = await loadCaptures(context, found, about, known);
  const files = await ids(
    context,
    'SELECT id FROM files WHERE entry_id = ANY ($own::uuid[]) OR task_id = ANY ($openTasks::uuid[])',
    { own, openTasks },
  );
  const imports = await ids(
    context,
    `SELECT DISTINCT import_id AS id FROM import_rows r WHERE r.person_id = $person::uuid
        OR (r.person_id IS NULL AND r.data ->> 'name' = $name)
        OR EXISTS (SELECT 1 FROM jsonb_array_elements($rows::jsonb) one WHERE r.data @> one)`,
    { person, name: known.fullName, rows: JSON.stringify(rowsLike(known)) },
  );
  return { ...found, own, shared, captures, projects, openTasks, tasks, files, imports };
}

/** What is one person's own. A page may be that of their firm, a number its switchboard, and stand with others too. */
export const PERSONAL: ReadonlySet<string> = new Set(['email', 'profile']);
const ROW_PLACES: Readonly<Record<string, string>> = { email: 'emails', profile: 'links' };

/** What a row of an import holds that is theirs. */
const rowsLike = ({ contacts }: KnownPerson): object[] =>
  contacts.flatMap(({ kind, normalized }) => {
    const place = ROW_PLACES[kind];
    return place ? [{ [place]: [{ normalized }] }] : [];
  });
