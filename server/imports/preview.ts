import { decidePerson, type Book, type Candidate } from '@emporikon/core/matching/verdict';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import { nameKey } from '@emporikon/core/people/names';
import { QueryTypes } from 'sequelize';
import { runInTransaction, type Context, type Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import { bookOf } from '../people/book';
import { namesSpelt } from '../people/namesSpelt';
import { dayOf, erasuresOf } from '../privacy/marks';
import { copyRows } from './copy';
import { loadFile } from './file';
import { findActorById } from '../session/identify';
import { loadImport, lockImport } from './view';
import { previewRecords, recordsOf, recordTarget } from './recordJobs';
import { cardRows, tableRows, type RowData, type SourceRow } from './source';

const CHUNK = 4000;

export type RowVerdict = 'new' | 'same' | 'maybe' | 'unusable';
interface Judged {
  verdict: RowVerdict;
  personId: string | null;
  reason: string;
  /** Of whoever was erased not even the row is kept. */
  isErased?: true;
}

interface Known extends Candidate<PersonFacts> {
  key: string;
}

const factsOf = (data: RowData): PersonFacts => ({
  fullName: data.name,
  emails: data.emails.map((email) => email.normalized),
  phones: data.phones.map((phone) => phone.normalized),
  companyName: data.company ?? '',
  profiles: data.links.filter((link) => link.kind === 'profile').map((link) => link.normalized),
});

/** People who share an address, number, page or name, in whatever spelling, with some rows, in one query. */
async function knownAmong(
  context: Context,
  rows: readonly SourceRow[],
  spelt: ReadonlyMap<string, readonly string[]>,
): Promise<Map<string, Known[]>> {
  const emails = rows.flatMap(({ data }) => data.emails.map((email) => email.normalized));
  const phones = rows.flatMap(({ data }) => data.phones.map((phone) => phone.normalized));
  const pages = rows.flatMap(({ data }) =>
    data.links.filter((link) => link.kind === 'profile').map((link) => link.normalized),
  );
  const names = [
    ...new Set(
      rows.flatMap(({ data }) => [nameKey(data.name), ...(spelt.get(data.name) ?? [])]).filter(Boolean),
    ),
  ];
  const found = await context.sequelize.query<{
    id: string;
    full_name: string;
    name_key: string;
    company: string | null;
    contacts: { kind: string; normalized: string }[] | null;
  }>(
    `SELECT p.id, p.full_name, p.name_key, c.name AS company,
            (SELECT jsonb_agg(jsonb_build_object('kind', kind, 'normalized', normalized)) FROM contact_points k WHERE k.person_id = p.id) AS contacts
       FROM people p LEFT JOIN companies c ON c.id = p.company_id
      WHERE p.id IN (
        SELECT person_id FROM contact_points WHERE kind = 'email' AND normalized = ANY($1::text[])
        UNION SELECT person_id FROM contact_points WHERE kind = 'phone' AND normalized COLLATE "C" = ANY($2::text[])
        UNION SELECT person_id FROM contact_points WHERE kind = 'profile' AND normalized = ANY($3::text[])
        UNION SELECT id FROM people WHERE name_key = ANY($4::text[]))`,
    { bind: [emails, phones, pages, names], type: QueryTypes.SELECT, transaction: context.tx },
  );
  const index = new Map<string, Known[]>();
  const put = (key: string, one: Known): void => {
    const list = index.get(key);
    if (list) list.push(one);
    else index.set(key, [one]);
  };
  for (const row of found) {
    const contacts = row.contacts ?? [];
    const of = (kind: string): string[] =>
      contacts.filter((contact) => contact.kind === kind).map((contact) => contact.normalized);
    const known: Known = {
      id: row.id,
      key: row.name_key,
      label: row.company ? `${row.full_name}, ${row.company}` : row.full_name,
      facts: {
        fullName: row.full_name,
        emails: of('email'),
        phones: of('phone'),
        companyName: row.company ?? '',
        profiles: of('profile'),
      },
    };
    for (const { kind, normalized } of contacts) put(`${kind}:${normalized}`, known);
    put(`name:${row.name_key}`, known);
  }
  return index;
}

function judge(
  data: RowData,
  index: ReadonlyMap<string, Known[]>,
  spelt: readonly string[],
  book: Book,
): Judged {
  const keys = [
    ...data.emails.map((email) => `email:${email.normalized}`),
    ...data.phones.map((phone) => `phone:${phone.normalized}`),
    ...data.links.map((link) => `${link.kind}:${link.normalized}`),
    ...[nameKey(data.name), ...spelt].map((key) => `name:${key}`),
  ];
  const candidates = [
    ...new Map(keys.flatMap((key) => index.get(key) ?? []).map((one) => [one.id, one])).values(),
  ];
  if (!candidates.length) return { verdict: 'new', personId: null, reason: '' };
  const namesakes = Math.max(1, index.get(`name:${nameKey(data.name)}`)?.length ?? 0);
  const verdict = decidePerson(factsOf(data), candidates.slice(0, 60), { ...book, namesakes });
  const [match] = verdict.matches;
  return {
    verdict: verdict.kind,
    personId: match?.id ?? null,
    reason: verdict.kind === 'maybe' && match ? `may be ${match.label}` : '',
  };
}

/** Why somebody is not brought back. */
const erasedReason = (context: Context, at: Date): string =>
  `erased on ${dayOf(context, at)}, so not imported again`;
const NOTHING: RowData = { name: '', emails: [], phones: [], links: [] };

/** Judges rows against the records; the sure ones get their person. Whoever was erased is not brought back. */
export async function judgeRows(context: Context, rows: readonly SourceRow[]): Promise<Judged[]> {
  const usable = rows.filter((row) => !row.reason);
  const spelt = await namesSpelt(
    context,
    usable.map(({ data }) => data.name),
  );
  const index = await knownAmong(context, usable, spelt);
  const { records, weights } = await bookOf(context, 'person', '');
  const book: Book = { records, ...(weights ? { weights } : {}) };
  const erased = await erasuresOf(
    context,
    rows.map(({ data }) => data),
  );
  return rows.map((row, at) => {
    if (row.reason) return { verdict: 'unusable', personId: null, reason: row.reason };
    const since = erased[at];
    return since
      ? { verdict: 'unusable', personId: null, reason: erasedReason(context, since), isErased: true }
      : judge(row.data, index, spelt.get(row.data.name) ?? [], book);
  });
}

/** Rows of a file in chunks. */
async function* chunksOf<Row>(rows: AsyncIterable<Row>): AsyncGenerator<Row[]> {
  let chunk: Row[] = [];
  for await (const row of rows) {
    chunk.push(row);
    if (chunk.length < CHUNK) continue;
    yield chunk;
    chunk = [];
  }
  if (chunk.length) yield chunk;
}

interface Previewed {
  verdicts: RowVerdict[];
  /** The first row of each person of this file, by what tells them apart. */
  firsts: [string, number][];
  /** Rows of which something cannot be kept. */
  leftOut: number;
}

/**
 * Judges the rows of one chunk and writes them down as the preview shows them.
 * @param seen the rows of earlier chunks, by what tells people apart
 */
async function previewChunk(
  context: Context,
  id: string,
  chunk: readonly SourceRow[],
  seen: ReadonlyMap<string, number>,
): Promise<Previewed> {
  const judged = await judgeRows(context, chunk);
  const firsts = new Map<string, number>();
  const verdicts: RowVerdict[] = [];
  let leftOut = 0;
  const lines = chunk.map((row, at) => {
    const { verdict, personId, reason, isErased } = judged[at] ?? {
      verdict: 'unusable' as const,
      personId: null,
      reason: 'was not read',
    };
    const twin = row.key ? (seen.get(row.key) ?? firsts.get(row.key)) : undefined;
    if (row.key && twin === undefined) firsts.set(row.key, row.row);
    const said = verdict === 'new' && twin !== undefined ? 'same' : verdict;
    const why =
      said === 'same' && twin !== undefined
        ? `the same as row ${twin + 1} of this file`
        : reason || (row.leftOut ? `left out: ${row.leftOut}` : '');
    if (row.leftOut) leftOut++;
    verdicts.push(said);
    const isProblem = said === 'maybe' || said === 'unusable';
    const data: Record<string, unknown> = isErased
      ? { ...NOTHING, cells: [] }
      : isProblem
        ? { ...row.data, cells: row.cells.slice(0, 40) }
        : { ...row.data };
    return [id, row.row, said, personId, data, why];
  });
  await copyRows(
    context,
    'import_rows',
    ['import_id', 'row', 'verdict', 'person_id', 'data', 'reason'],
    lines,
  );
  return { verdicts, firsts: [...firsts], leftOut };
}

/** Clears what an earlier preview left. @returns the import to be looked through; null when it is not wanted any more */
function beginPreview(tools: Tools, id: string): Promise<Import | null> {
  return runInTransaction(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await Import.findByPk(id, { transaction: context.tx });
    if (!one || one.state !== 'previewing') return null;
    await context.sequelize.query('DELETE FROM import_rows WHERE import_id = $id', {
      bind: { id },
      transaction: context.tx,
    });
    await context.sequelize.query(
      'UPDATE imports SET done = 0, seen = pg_current_snapshot() WHERE id = $id',
      { bind: { id }, transaction: context.tx },
    );
    return one;
  });
}

/**
 * Makes the preview of an import: every row judged against the records, nothing written to them. Each chunk is a
 * transaction of its own, so that no connection is held while the file is read. Cut off, it is made anew; when the
 * columns were changed meanwhile, it ends and leaves the way to the next one.
 */
export async function previewImport(tools: Tools, id: string): Promise<void> {
  const one = await beginPreview(tools, id);
  if (!one) return;
  const by = await findActorById(one.createdBy);
  const raw = await loadFile(tools, id);
  const rows =
    one.kind === 'cards'
      ? cardRows(raw, tools.house.country)
      : tableRows(
          raw,
          one.mapping ?? { columns: [], hasHead: true, dates: null, country: null },
          tools.house.country,
        );
  const target = recordTarget(one);
  const counts: Record<string, number> = { new: 0, same: 0, maybe: 0, unusable: 0 };
  const seen = new Map<string, number>();
  let done = 0;
  const stillWanted = async (context: Context): Promise<Import | null> => {
    await lockImport(context, id);
    const now = await loadImport(context, id, true);
    return now.state === 'previewing' && same(now.mapping, one.mapping) && same(now.choices, one.choices)
      ? now
      : null;
  };
  const add = (more: Record<string, number>): void => {
    for (const [key, count] of Object.entries(more)) counts[key] = (counts[key] ?? 0) + count;
  };
  if (target)
    for await (const chunk of chunksOf(recordsOf(tools, one, raw))) {
      const found = await runInTransaction(tools, by, async (context) => {
        if (!(await stillWanted(context))) return null;
        await noteDone(context, id, done + chunk.length);
        return previewRecords(context, id, target, chunk);
      });
      if (!found) return;
      done += chunk.length;
      add(found);
    }
  else
    for await (const chunk of chunksOf(rows)) {
      const previewed = await runInTransaction(tools, by, async (context) => {
        if (!(await stillWanted(context))) return null;
        await noteDone(context, id, done + chunk.length);
        return previewChunk(context, id, chunk, seen);
      });
      if (!previewed) return;
      done += chunk.length;
      if (previewed.leftOut) counts['left out'] = (counts['left out'] ?? 0) + previewed.leftOut;
      for (const verdict of previewed.verdicts) counts[verdict] = (counts[verdict] ?? 0) + 1;
      for (const [key, row] of previewed.firsts) seen.set(key, row);
    }
  await runInTransaction(tools, null, async (context) => {
    const now = await stillWanted(context);
    if (!now) return;
    await context.write.update(now, { state: 'previewed', counts, total: done, done: 0, trouble: '' });
    await context.write.event('preview import', `Looked through ${one.name}`, one.createdBy);
  });
}

const noteDone = (context: Context, id: string, done: number): Promise<unknown> =>
  context.sequelize.query('UPDATE imports SET done = $done WHERE id = $id', {
    bind: { done, id },
    transaction: context.tx,
  });

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);
