import type { Parsed } from '@emporikon/contract';
import type { File, FileDetail } from '@emporikon/contract/files';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { LINK_COLUMNS, ownerOf, type LedgerOwner } from '../ledger/page';
import { textQueryOf } from '../search/textQuery';
import { mayRemove } from './add';

interface VersionRow {
  number: number;
  name: string;
  size: number;
  media_type: string;
  preview: File['preview'];
  state: File['state'];
  finding: string;
  by: string | null;
  at: Date;
}
interface Row extends VersionRow {
  id: string;
  version: number;
  entry_id: string | null;
  task: File['task'];
  people: File['people'];
  companies: File['companies'];
  deals: File['deals'];
  key: string;
}

const asVersion = (row: VersionRow): FileDetail['versions'][number] => ({
  number: row.number,
  name: row.name,
  size: row.size,
  mediaType: row.media_type,
  preview: row.preview,
  state: row.state,
  finding: row.finding,
  by: row.by,
  at: row.at.toISOString(),
});
const asFile = (row: Row): File => ({
  ...asVersion(row),
  id: row.id,
  version: row.version,
  entryId: row.entry_id,
  task: row.task,
  people: row.people,
  companies: row.companies,
  deals: row.deals,
});

const VERSION = 'v.number, v.name, c.size, c.media_type, c.preview, c.state, c.finding, u.name AS by, v.at';
const named = (table: string, column: string, label: string): string =>
  `(SELECT coalesce(jsonb_agg(DISTINCT jsonb_build_object('id', r.id, 'name', r.${label})), '[]')
      FROM ledger_links l JOIN ${table} r ON r.id = l.${column} WHERE l.entry_id = f.entry_id)`;
const SHOWN = `SELECT f.id, f.version, f.entry_id, ${VERSION}, f.at::text AS key,
    (SELECT jsonb_build_object('id', t.id, 'name', t.title) FROM tasks t WHERE t.id = f.task_id) AS task,
    ${named('people', 'person_id', 'full_name')} AS people, ${named('companies', 'company_id', 'name')} AS companies,
    ${named('deals', 'deal_id', 'title')} AS deals
  FROM files f JOIN file_versions v ON v.file_id = f.id AND v.number = f.number JOIN file_contents c ON c.sha256 = v.sha256
  LEFT JOIN users u ON u.id = v.added_by`;

/** The files of a record: those of its ledger, as it rolls up, and of its tasks. */
function belongs(owner: LedgerOwner): string {
  const column = LINK_COLUMNS[owner];
  const rolledUp =
    owner === 'companyId'
      ? ' OR k.at_company = :owner::uuid'
      : owner === 'dealId'
        ? ` OR (k.person_id IN (SELECT person_id FROM deal_roles WHERE deal_id = :owner)
             AND NOT EXISTS (SELECT 1 FROM ledger_links e WHERE e.entry_id = k.entry_id AND e.deal_id <> :owner))`
        : '';
  return `(f.entry_id IN (SELECT k.entry_id FROM ledger_links k WHERE k.${column} = :owner::uuid${rolledUp})
      OR f.task_id IN (SELECT t.id FROM tasks t WHERE t.${column} = :owner::uuid))`;
}

/** So many of those that are found by their words are looked at, newest first. */
const MOST_FOUND = 1000;
/** Files of a record, a task or of everything the actor sees, newest first. */
export async function listFiles(
  context: Context,
  { q, taskId, cursor, limit, ...about }: Parsed<'GET /api/files', 'query'>,
): Promise<{ items: File[]; next: string | null }> {
  const owner = Object.values(about).some(Boolean) ? ownerOf(about) : null;
  const sought = q ? textQueryOf(q) : null;
  if (q?.trim() && sought === null) return { items: [], next: null };
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const where = [
    owner ? belongs(owner[0]) : '',
    taskId ? 'f.task_id = :taskId::uuid' : '',
    sought ? `f.id IN (SELECT file_id FROM files_found(:sought::tsquery, ${MOST_FOUND}))` : '',
    last ? '(f.at, f.id) < (:at::timestamptz, :last::uuid)' : '',
  ].filter(Boolean);
  const rows = await context.sequelize.query<Row>(
    `${SHOWN} ${where.length ? `WHERE ${where.join(' AND ')}` : ''} ORDER BY f.at DESC, f.id DESC LIMIT :most`,
    {
      replacements: {
        owner: owner?.[1] ?? null,
        taskId: taskId ?? null,
        sought,
        at,
        last,
        most: limit + 1,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  return pageOf(rows, limit, asFile, ({ key, id }) => [key, id]);
}

/** So much of a text is shown in the page. */
const MOST_TEXT = 50_000;

/** One file with all its versions. @throws 404 */
export async function fileDetail(context: Context, id: string): Promise<FileDetail> {
  const [row] = await context.sequelize.query<Row & { text: string | null; first_by: string | null }>(
    `${SHOWN.replace(
      'f.at::text AS key,',
      `f.at::text AS key, CASE WHEN c.preview = 'text' THEN left(c.words, ${MOST_TEXT}) END AS text,
       (SELECT o.added_by FROM file_versions o WHERE o.file_id = f.id AND o.number = 1) AS first_by,`,
    )} WHERE f.id = :id`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  if (!row) throw notFound('There is no such file.');
  const versions = await context.sequelize.query<VersionRow>(
    `SELECT ${VERSION} FROM file_versions v JOIN file_contents c ON c.sha256 = v.sha256 LEFT JOIN users u ON u.id = v.added_by
      WHERE v.file_id = :id ORDER BY v.number DESC LIMIT 200`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const isOpen = row.state === 'kept' || row.state === 'clean';
  return {
    ...asFile(row),
    versions: versions.map(asVersion),
    text: isOpen ? row.text : null,
    isMine: mayRemove(requireActor(context), row.first_by),
  };
}
