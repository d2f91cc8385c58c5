import type { Entry, EntryDetail, Turn } from '@emporikon/contract/ledger';
import { PEOPLE_BEHIND } from './peopleBehind';
import { proposedTasks } from './proposed';
import { joinTurns } from '@emporikon/core/ledger/turn';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Lead } from '../db/models/deals';
import { Annotation, LedgerRevision } from '../db/models/ledger';
import { notFound } from '../http/problems';
import { inThread, isFolded, LINK_COLUMNS, pageOfEntries, type LedgerOwner, type Narrowed } from './page';
import { turnOfCompany, turnsOfCases, turnsOfDeals, turnsOfPeople } from './turns';

interface Row {
  id: string;
  version: number;
  at: Date;
  side: Entry['side'];
  kind: Entry['kind'];
  headline: string;
  body: string;
  has_more: boolean;
  said: string;
  outcome: Entry['outcome'];
  capture_id: string | null;
  tone: Entry['tone'];
  actor_id: string | null;
  actor: string | null;
  people: { id: string; name: string }[];
  deals: { id: string; name: string }[];
  files: Entry['files'];
  letter: Entry['letter'];
  thread: string | null;
  in_thread: number;
  pinned_at: Date | null;
  edited_at: Date | null;
  is_new: boolean;
  is_annotated: boolean;
}

/** A thread of more is counted as so many. */
const MOST_IN_THREAD = 200;

const linked = (
  table: 'people' | 'deals' | 'companies' | 'leads' | 'projects' | 'cases',
  column: string,
  name: string,
): string =>
  `(SELECT coalesce(jsonb_agg(jsonb_build_object('id', r.id, 'name', r.${name}) ORDER BY r.${name}), '[]') FROM ledger_links l JOIN ${table} r ON r.id = l.${column} WHERE l.entry_id = n.id)`;

/** What became of a letter, as SQL over `n`. */
const OUTCOMES = `(SELECT coalesce(jsonb_agg(jsonb_build_object('name', r.name, 'address', r.address, 'personId', r.person_id, 'state', r.state,
    'status', r.status, 'words', r.words, 'toldAt', r.told_at, 'awayUntil', r.away_until, 'answeredAt', r.answered_at,
    'openedAt', r.opened_at, 'fetchedAt', r.fetched_at, 'clickedAt', r.clicked_at, 'clicks', r.clicks) ORDER BY r.position), '[]')
  FROM letter_recipients r WHERE r.capture_id = n.capture_id AND r.way <> 'bcc')`;

/** An entry as it is shown, as SQL over `n`. */
const shown = (inThreadCount: string): string => `
  n.id, n.version, n.at, n.side, n.kind, n.headline, n.body, n.said <> '' AND n.said <> n.headline AS has_more, n.outcome, n.capture_id, n.actor_id, u.name AS actor,
  CASE WHEN n.side = 'theirs' THEN (SELECT c.message ->> 'tone' FROM captures c WHERE c.id = n.capture_id) END AS tone,
  ${linked('people', 'person_id', 'full_name')} AS people, ${linked('deals', 'deal_id', 'title')} AS deals,
  (SELECT coalesce(jsonb_agg(jsonb_build_object('id', v.file_id, 'name', v.name, 'number', v.number) ORDER BY v.name, v.id), '[]')
     FROM file_versions v WHERE v.entry_id = n.id) AS files,
  ${OUTCOMES} AS letter,
  n.thread, ${inThreadCount} AS in_thread, n.pinned_at, n.edited_at,
  coalesce(n.created_at > :newSince::timestamptz AND n.actor_id IS DISTINCT FROM :reader::uuid, false) AS is_new,
  EXISTS (SELECT 1 FROM annotations a WHERE a.entry_id = n.id) AS is_annotated`;

async function rowsOf(
  context: Context,
  [owner, id]: readonly [LedgerOwner, string],
  ids: readonly string[],
  narrowed: Narrowed,
): Promise<Row[]> {
  if (!ids.length) return [];
  const count = isFolded(narrowed)
    ? `CASE WHEN n.thread IS NULL OR n.kind <> 'mail' THEN 0 ELSE (SELECT count(*)::int FROM (SELECT 1 ${inThread(owner, 'n')} AND m.kind = 'mail' LIMIT ${MOST_IN_THREAD}) t) END`
    : '0';
  return context.sequelize.query<Row>(
    `SELECT ${shown(count)} FROM ledger_entries n LEFT JOIN users u ON u.id = n.actor_id WHERE n.id IN (:ids) ORDER BY n.at DESC, n.id DESC`,
    {
      replacements: {
        ids: [...ids],
        id,
        newSince: narrowed.newSince ?? null,
        reader: requireActor(context).id,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
}

const asEntry = (row: Row, reader: string): Entry => ({
  id: row.id,
  version: row.version,
  at: row.at.toISOString(),
  side: row.side,
  kind: row.kind,
  headline: row.headline,
  body: row.body,
  hasMore: row.has_more,
  actor: row.actor,
  isMine: row.actor_id === reader,
  outcome: row.outcome,
  captureId: row.capture_id,
  tone: row.tone,
  people: row.people,
  deals: row.deals,
  files: row.files,
  letter: row.letter,
  thread: row.thread && row.in_thread > 1 ? { id: row.thread, count: row.in_thread } : null,
  isPinned: row.pinned_at !== null,
  isNew: row.is_new,
  isAnnotated: row.is_annotated,
  editedAt: row.edited_at?.toISOString() ?? null,
});

/** So many pinned entries stand above a ledger. */
const MOST_PINNED = 20;

async function pinnedOf(
  context: Context,
  owner: readonly [LedgerOwner, string],
  narrowed: Narrowed,
): Promise<Entry[]> {
  const column = LINK_COLUMNS[owner[0]];
  const rolledUp = owner[0] === 'companyId' ? 'OR k.at_company = :id::uuid' : '';
  const rows = await context.sequelize.query<{ id: string }>(
    `SELECT DISTINCT n.id, n.pinned_at FROM ledger_entries n JOIN ledger_links k ON k.entry_id = n.id
      WHERE n.pinned_at IS NOT NULL AND (k.${column} = :id::uuid ${rolledUp}) ORDER BY n.pinned_at DESC LIMIT ${MOST_PINNED}`,
    { replacements: { id: owner[1] }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  const reader = requireActor(context).id;
  const ids = rows.map((row) => row.id);
  return (await rowsOf(context, owner, ids, { ...narrowed, thread: 'any' })).map((row) =>
    asEntry(row, reader),
  );
}

/** Entries of one record, newest first; on the first page what is pinned as well. */
export async function entriesOf(
  context: Context,
  owner: readonly [LedgerOwner, string],
  asked: Narrowed & { cursor?: string | undefined; limit: number },
): Promise<{ items: Entry[]; pinned: Entry[]; next: string | null }> {
  const { cursor, limit, ...narrowed } = asked;
  const { ids, next } = await pageOfEntries(context, owner, { cursor, limit, ...narrowed });
  const rows = await rowsOf(context, owner, ids, narrowed);
  const reader = requireActor(context).id;
  return {
    items: rows.map((row) => asEntry(row, reader)),
    pinned: cursor ? [] : await pinnedOf(context, owner, narrowed),
    next,
  };
}

/** One entry with all that belongs to it. @throws 404 where whoever asks cannot see it */
export async function entryDetail(context: Context, id: string): Promise<EntryDetail> {
  const reader = requireActor(context).id;
  const [row] = await context.sequelize.query<
    Row & Pick<EntryDetail, 'companies' | 'leads' | 'projects' | 'cases'>
  >(
    `SELECT ${shown('0')}, n.said, ${linked('companies', 'company_id', 'name')} AS companies, ${linked('leads', 'lead_id', 'title')} AS leads,
            ${linked('projects', 'project_id', 'title')} AS projects, ${linked('cases', 'case_id', 'title')} AS cases
       FROM ledger_entries n LEFT JOIN users u ON u.id = n.actor_id WHERE n.id = :id`,
    {
      replacements: { id, newSince: null, reader },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  if (!row) throw notFound('There is no such entry.');
  const own = await Annotation.findOne({ where: { entryId: id, userId: reader }, transaction: context.tx });
  const revisions = await LedgerRevision.findAll({
    where: { entryId: id },
    order: [['until', 'DESC']],
    limit: 50,
    transaction: context.tx,
  });
  return {
    ...asEntry(row, reader),
    said: row.said || [row.headline, row.body].filter(Boolean).join('\n\n'),
    companies: row.companies,
    leads: row.leads,
    projects: row.projects,
    cases: row.cases,
    annotation: own?.words ?? null,
    proposed: await proposedTasks(context, asEntry(row, reader)),
    revisions: revisions.map(({ headline, body, kind, at, outcome, until }) => ({
      headline,
      body,
      kind,
      at: at.toISOString(),
      outcome,
      until: until.toISOString(),
    })),
  };
}

/** Whose turn it is with the people on a project. */
async function turnOfProject(context: Context, id: string): Promise<Turn> {
  const people = await context.sequelize.query<{ id: string }>(PEOPLE_BEHIND.projectId, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  return joinTurns([
    ...(
      await turnsOfPeople(
        context,
        people.map((person) => person.id),
      )
    ).values(),
  ]);
}

/** Whose turn it is with one record. A lead's is that of its person: they are one and the same to talk with. */
export async function turnOf(context: Context, owner: LedgerOwner, id: string): Promise<Turn> {
  if (owner === 'companyId') return turnOfCompany(context, id);
  if (owner === 'dealId') return (await turnsOfDeals(context, [id])).get(id) ?? joinTurns([]);
  if (owner === 'caseId') return (await turnsOfCases(context, [id])).get(id) ?? joinTurns([]);
  if (owner === 'projectId') return turnOfProject(context, id);
  const lead = owner === 'leadId' ? await Lead.findByPk(id, { transaction: context.tx }) : null;
  const personId = lead?.personId ?? id;
  return (await turnsOfPeople(context, [personId])).get(personId) ?? joinTurns([]);
}
