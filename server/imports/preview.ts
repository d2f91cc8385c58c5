import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { decidePerson, type Book, type Candidate } from '@emporikon/core/matching/verdict';
import type { PersonFacts } from '@emporikon/core/matching/evidence';
import { nameKey } from '@emporikon/core/people/names';
import pgCopy from 'pg-copy-streams';
import { QueryTypes } from 'sequelize';
import { perform, type Context, type Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import { clientOf } from '../db/prepared';
import { bookOf } from '../people/book';
import { copyText } from './copy';
import { lockImport } from './view';
import { cardRows, tableRows, type RowData, type SourceRow } from './source';

const CHUNK = 4000;

export type RowVerdict = 'new' | 'same' | 'maybe' | 'unusable';
interface Judged {
  verdict: RowVerdict;
  personId: string | null;
  reason: string;
}

interface Known extends Candidate<PersonFacts> {
  key: string;
}

const factsOf = (data: RowData): PersonFacts => ({
  fullName: data.name,
  emails: data.emails.map((one) => one.normalized),
  phones: data.phones.map((one) => one.normalized),
  companyName: data.company ?? '',
  profiles: data.links.filter((one) => one.kind === 'profile').map((one) => one.normalized),
});

/** People who share an exact address, number, page or name with some rows, in one query. */
async function knownAmong(context: Context, rows: readonly SourceRow[]): Promise<Map<string, Known[]>> {
  const emails = rows.flatMap(({ data }) => data.emails.map((one) => one.normalized));
  const phones = rows.flatMap(({ data }) => data.phones.map((one) => one.normalized));
  const pages = rows.flatMap(({ data }) =>
    data.links.filter((one) => one.kind === 'profile').map((one) => one.normalized),
  );
  const names = [...new Set(rows.map(({ data }) => nameKey(data.name)).filter(Boolean))];
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
        UNION SELECT person_id FROM contact_points WHERE kind = 'phone' AND normalized = ANY($2::text[])
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
      contacts.filter((one) => one.kind === kind).map((one) => one.normalized);
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

function judge(data: RowData, index: ReadonlyMap<string, Known[]>, book: Book): Judged {
  const keys = [
    ...data.emails.map((one) => `email:${one.normalized}`),
    ...data.phones.map((one) => `phone:${one.normalized}`),
    ...data.links.map((one) => `${one.kind}:${one.normalized}`),
    `name:${nameKey(data.name)}`,
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

/** Judges rows against the records; the sure ones get their person. */
export async function judgeRows(context: Context, rows: readonly SourceRow[]): Promise<Judged[]> {
  const index = await knownAmong(
    context,
    rows.filter((row) => !row.reason),
  );
  const { records, weights } = await bookOf(context, 'person', '');
  const book: Book = { records, ...(weights ? { weights } : {}) };
  return rows.map((row) =>
    row.reason ? { verdict: 'unusable', personId: null, reason: row.reason } : judge(row.data, index, book),
  );
}

async function* linesOf(
  context: Context,
  one: Import,
  rows: AsyncIterable<SourceRow>,
  counts: Record<string, number>,
  onChunk: (done: number) => Promise<void>,
): AsyncGenerator<string> {
  const seen = new Map<string, number>();
  let chunk: SourceRow[] = [];
  let done = 0;
  const flush = async function* (): AsyncGenerator<string> {
    const judged = await judgeRows(context, chunk);
    let text = '';
    for (const [at, row] of chunk.entries()) {
      const { verdict, personId, reason } = judged[at] ?? {
        verdict: 'unusable',
        personId: null,
        reason: 'was not read',
      };
      const twin = row.key ? seen.get(row.key) : undefined;
      if (row.key && twin === undefined) seen.set(row.key, row.row);
      const said = verdict === 'new' && twin !== undefined ? 'same' : verdict;
      const why = said === 'same' && twin !== undefined ? `the same as row ${twin + 1} of this file` : reason;
      counts[said] = (counts[said] ?? 0) + 1;
      const isProblem = said === 'maybe' || said === 'unusable';
      const data = isProblem ? { ...row.data, cells: row.cells.slice(0, 40) } : row.data;
      text += `${[one.id, String(row.row), said, personId, data as unknown as Record<string, unknown>, why].map(copyText).join('\t')}\n`;
    }
    done += chunk.length;
    chunk = [];
    yield text;
    await onChunk(done);
  };
  for await (const row of rows) {
    chunk.push(row);
    if (chunk.length >= CHUNK) yield* flush();
  }
  if (chunk.length) yield* flush();
}

/** The newest event: what was done after it may have changed what a preview found. */
async function newestEvent(context: Context): Promise<number> {
  const [row] = await context.sequelize.query<{ seq: number }>(
    'SELECT coalesce(max(seq), 0) AS seq FROM events',
    {
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return Number(row?.seq ?? 0);
}

/**
 * Makes the preview of an import: every row judged against the records, nothing written to them. Cut off, it leaves the
 * import as it was and is made anew.
 */
export async function previewImport(tools: Tools, id: string): Promise<void> {
  await perform(tools, null, async (context) => {
    await lockImport(context, id);
    const one = await Import.findByPk(id, { transaction: context.tx });
    if (!one || one.state !== 'previewing') return;
    const counts: Record<string, number> = { new: 0, same: 0, maybe: 0, unusable: 0 };
    await context.sequelize.query('DELETE FROM import_rows WHERE import_id = :id', {
      replacements: { id },
      transaction: context.tx,
    });
    const rows =
      one.kind === 'cards'
        ? cardRows(one.raw, context.house.country)
        : tableRows(
            one.raw,
            one.mapping ?? { columns: [], hasHead: true, dates: null, country: null },
            context.house.country,
          );
    const stream = clientOf(context).query(
      pgCopy.from('COPY import_rows (import_id, row, verdict, person_id, data, reason) FROM STDIN'),
    );
    // The look-ups of a chunk go over a connection of their own: this one is busy copying.
    await perform(tools, null, async (reader) => {
      await pipeline(
        Readable.from(linesOf(reader, one, rows, counts, (done) => noteProgress(tools, id, done))),
        stream,
      );
    });
    const total = Object.values(counts).reduce((sum, count) => sum + count, 0);
    await context.write.update(one, {
      state: 'previewed',
      counts,
      total,
      done: 0,
      seenUntil: await newestEvent(context),
    });
    await context.write.event('preview import', `Looked through ${one.name}`, one.createdBy);
  });
}

/** How far a preview has come, told outside its transaction so that others see it. */
async function noteProgress(tools: Tools, id: string, done: number): Promise<void> {
  await tools.sequelize.query('UPDATE imports SET done = :done WHERE id = :id', {
    replacements: { id, done },
  });
}
