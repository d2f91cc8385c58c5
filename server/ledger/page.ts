import type { Parsed } from '@emporikon/contract';
import type { About } from '@emporikon/contract/ledger';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { invalid } from '../http/problems';
import { decodeCursor, encodeCursor } from '../http/paging';

export type LedgerOwner = keyof About;
/** What a ledger is narrowed by. */
export type Narrowed = Omit<Parsed<'GET /api/ledger/months', 'query'>, LedgerOwner>;

const OWNERS: readonly LedgerOwner[] = ['caseId', 'projectId', 'dealId', 'leadId', 'personId', 'companyId'];
/** The column of a link that names what it belongs to. */
export const LINK_COLUMNS: Readonly<Record<LedgerOwner, string>> = {
  personId: 'person_id',
  companyId: 'company_id',
  leadId: 'lead_id',
  dealId: 'deal_id',
  projectId: 'project_id',
  caseId: 'case_id',
};

/** Whose ledger is meant. @throws 422 when it is nobody's */
export function ownerOf(about: About): [LedgerOwner, string] {
  for (const key of OWNERS) if (about[key]) return [key, about[key]];
  throw invalid('Say whose ledger: personId, companyId, leadId, dealId, projectId or caseId.', {
    fields: { personId: 'is missing' },
  });
}

/** A part of the links that make up a ledger, each read by its own index; newest first, so many of each. */
interface Branch {
  from: string;
  where: string;
}

/**
 * The links that make up the ledger of a record. What is said with a person stands on the company they worked for at that
 * time, and on the deals and projects they have a part in, unless it is about another one or came after the end (common
 * practice).
 */
const BRANCHES: Record<LedgerOwner, readonly Branch[]> = {
  personId: [{ from: '', where: 'k.person_id = :id::uuid' }],
  leadId: [{ from: '', where: 'k.lead_id = :id::uuid' }],
  companyId: [
    { from: '', where: 'k.company_id = :id::uuid' },
    { from: '', where: 'k.at_company = :id::uuid' },
    { from: 'people o', where: 'o.company_id = :id AND k.person_id = o.id AND k.at_company IS NULL' },
  ],
  dealId: [
    { from: '', where: 'k.deal_id = :id::uuid' },
    {
      from: 'deal_roles o JOIN deals d ON d.id = o.deal_id',
      where: `o.deal_id = :id AND k.person_id = o.person_id AND (d.closed_at IS NULL OR k.at <= d.closed_at)
        AND NOT EXISTS (SELECT 1 FROM ledger_links e WHERE e.entry_id = k.entry_id AND e.deal_id <> :id)
        AND EXISTS (SELECT 1 FROM ledger_entries e WHERE e.id = k.entry_id AND e.kind <> 'change')`,
    },
  ],
  projectId: [
    { from: '', where: 'k.project_id = :id::uuid' },
    {
      from: 'project_people o JOIN projects d ON d.id = o.project_id',
      where: `o.project_id = :id AND k.person_id = o.person_id AND k.at >= d.created_at AND (d.closed_at IS NULL OR k.at <= d.closed_at)
        AND NOT EXISTS (SELECT 1 FROM ledger_links e WHERE e.entry_id = k.entry_id AND (e.project_id <> :id OR e.case_id IS NOT NULL))
        AND EXISTS (SELECT 1 FROM ledger_entries e WHERE e.id = k.entry_id AND e.kind <> 'change')`,
    },
  ],
  caseId: [{ from: '', where: 'k.case_id = :id::uuid' }],
};

/** Whether a link belongs to the ledger of a record, as SQL over a link. */
const BELONGS: Record<LedgerOwner, (link: string) => string> = {
  personId: (link) => `${link}.person_id = :id::uuid`,
  leadId: (link) => `${link}.lead_id = :id::uuid`,
  companyId: (link) =>
    `(${link}.company_id = :id::uuid OR ${link}.at_company = :id::uuid OR (${link}.at_company IS NULL AND EXISTS (SELECT 1 FROM people o WHERE o.id = ${link}.person_id AND o.company_id = :id)))`,
  dealId: (link) =>
    `(${link}.deal_id = :id::uuid OR EXISTS (SELECT 1 FROM deal_roles o WHERE o.deal_id = :id AND o.person_id = ${link}.person_id))`,
  projectId: (link) =>
    `(${link}.project_id = :id::uuid OR EXISTS (SELECT 1 FROM project_people o WHERE o.project_id = :id AND o.person_id = ${link}.person_id))`,
  caseId: (link) => `${link}.case_id = :id::uuid`,
};

/** The entries of a thread that stand in the ledger of a record, beside one of them, as SQL. */
export const inThread = (owner: LedgerOwner, beside: string): string =>
  `FROM ledger_entries m WHERE m.thread = ${beside}.thread AND EXISTS (SELECT 1 FROM ledger_links w WHERE w.entry_id = m.id AND ${BELONGS[owner]('w')})`;

/** Of an exchange of mails only the newest is shown, unless something in particular is looked for. */
export const isFolded = ({ fold, q, thread, with: person, by }: Narrowed): boolean =>
  fold !== 'no' && !q && !thread && !person && !by;

/** So many of the words that are looked for count. */
const MOST_WORDS = 8;
const wordsOf = (q: string): string[] => q.split(/\s+/).filter(Boolean).slice(0, MOST_WORDS);

/** What narrows the links of a branch, as SQL over `k`. */
function conditions(owner: LedgerOwner, narrowed: Narrowed): string {
  const { kind, with: person, by, from, until, upTo, q, thread } = narrowed;
  const ofEntry = [
    kind ? 'n.kind = :kind' : '',
    by ? 'n.actor_id = :by' : '',
    thread ? 'n.thread = :thread' : '',
    q
      ? `folded(n.headline || ' ' || n.body || ' ' || n.said) LIKE ALL (SELECT '%' || folded(w) || '%' FROM unnest(ARRAY[:words]::text[]) w)`
      : '',
    isFolded(narrowed)
      ? `(n.thread IS NULL OR n.kind <> 'mail' OR NOT EXISTS (SELECT 1 ${inThread(owner, 'n')} AND m.kind = 'mail' AND (m.at, m.id) > (n.at, n.id)))`
      : '',
  ].filter(Boolean);
  return [
    from ? 'AND k.at >= :from::timestamptz' : '',
    until ? 'AND k.at < :until::timestamptz' : '',
    upTo ? `AND k.at < ((:upTo || '-01')::timestamp + interval '1 month') AT TIME ZONE :zone` : '',
    person
      ? 'AND EXISTS (SELECT 1 FROM ledger_links w WHERE w.entry_id = k.entry_id AND w.person_id = :with)'
      : '',
    ofEntry.length
      ? `AND EXISTS (SELECT 1 FROM ledger_entries n WHERE n.id = k.entry_id AND ${ofEntry.join(' AND ')})`
      : '',
  ].join(' ');
}

const replacementsOf = (context: Context, id: string, narrowed: Narrowed): Record<string, unknown> => ({
  ...narrowed,
  id,
  zone: context.actor?.timeZone ?? 'utc',
  words: wordsOf(narrowed.q ?? ''),
});

/** The newest links of each branch, one entry once, as SQL. */
const linksOf = (owner: LedgerOwner, narrowing: string): string => {
  const parts = BRANCHES[owner].map(({ from, where }) => {
    const newest = (also: string): string =>
      `SELECT DISTINCT k.entry_id, k.at FROM ledger_links k WHERE ${also} ${narrowing} ORDER BY k.at DESC, k.entry_id DESC LIMIT :most`;
    if (!from) return `(${newest(where)})`;
    const [own = '', ...ofLink] = where.split(/ AND (?=k\.)/);
    return `(SELECT said.* FROM ${from} CROSS JOIN LATERAL (${newest(ofLink.join(' AND '))}) said WHERE ${own})`;
  });
  return `SELECT DISTINCT entry_id, at FROM (${parts.join(' UNION ALL ')}) every`;
};

/** The ids of a page of the ledger of a record, newest first: each part costs the same however much was said. */
export async function pageOfEntries(
  context: Context,
  [owner, id]: readonly [LedgerOwner, string],
  { cursor, limit, ...narrowed }: Narrowed & { cursor?: string | undefined; limit: number },
): Promise<{ ids: string[]; next: string | null }> {
  const [at = '', last = ''] = decodeCursor(cursor, 2);
  const after = last ? 'AND (k.at, k.entry_id) < (:at::timestamptz, :last::uuid)' : '';
  const rows = await context.sequelize.query<{ id: string; key: string }>(
    `SELECT entry_id AS id, at::text AS key FROM (${linksOf(owner, `${after} ${conditions(owner, narrowed)}`)}) page
      ORDER BY at DESC, entry_id DESC LIMIT :most`,
    {
      replacements: { ...replacementsOf(context, id, narrowed), at, last, most: limit + 1 },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
  const page = rows.slice(0, limit);
  const end = page.at(-1);
  return {
    ids: page.map((row) => row.id),
    next: rows.length > page.length && end ? encodeCursor([end.key, end.id]) : null,
  };
}

/** Of a long history so many of the newest entries have their months counted. */
const MOST_COUNTED = 20_000;

/** The months of a ledger on the reader's clock, newest first: `2026-11`. */
export async function monthsOf(
  context: Context,
  [owner, id]: readonly [LedgerOwner, string],
  narrowed: Narrowed,
): Promise<{ month: string; count: number }[]> {
  return context.sequelize.query(
    `SELECT to_char(at AT TIME ZONE :zone, 'YYYY-MM') AS month, count(*)::int AS count
       FROM (${linksOf(owner, conditions(owner, narrowed))}) every GROUP BY 1 ORDER BY 1 DESC`,
    {
      replacements: {
        ...replacementsOf(context, id, narrowed),
        most: MOST_COUNTED,
      },
      type: QueryTypes.SELECT,
      transaction: context.tx,
    },
  );
}
