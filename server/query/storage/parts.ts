import type { SqlField, SqlJoin, SqlRelation } from '@emporikon/core/query/sql/storage';
import { isNewFor } from '../../ledger/looks';

/** A column of the record itself. */
export const column = (name: string, more: Omit<SqlField, 'sql'> = {}): SqlField => ({
  sql: `{r}.${name}`,
  ...more,
});
/** A column of one of its joins. */
export const joined = (join: string, name: string, more: Omit<SqlField, 'sql' | 'joins'> = {}): SqlField => ({
  sql: `{r.${join}}.${name}`,
  joins: [join],
  ...more,
});

export const ownerJoin = (owner = 'owner_id'): SqlJoin => ({
  sql: `LEFT JOIN users {r.owner} ON {r.owner}.id = {r}.${owner}`,
});
export const owned = (owner = 'owner_id') => ({
  owner: column(owner),
  team: joined('owner', 'team'),
});

export const companyJoin = (column = 'company_id'): SqlJoin => ({
  sql: `LEFT JOIN companies {r.company} ON {r.company}.id = {r}.${column}`,
});
export const FIRM = {
  companyName: joined('company', 'name'),
  industry: joined('company', 'industry'),
  employees: joined('company', 'employees', { cast: 'int4' }),
  country: joined('company', 'country'),
  city: { sql: 'NULL::text' },
} satisfies Record<string, SqlField>;

export const personJoin: SqlJoin = {
  sql: 'LEFT JOIN people {r.person} ON {r.person}.id = {r}.person_id',
};

/** A place that is a company's is seen by whoever sees the company. */
const SEEN = '(g.company_id IS NULL OR EXISTS (SELECT 1 FROM companies v WHERE v.id = g.company_id))';
/** Where the record is that `key` names by its id. */
export const placed = (key: string): SqlField => {
  const from = `FROM places g WHERE g.record_id = ${key} AND ${SEEN}`;
  return {
    sql: `(SELECT g.lat || ',' || g.lon ${from})`,
    yes: `EXISTS (SELECT 1 ${from})`,
    no: `NOT EXISTS (SELECT 1 ${from})`,
    place: { key, seen: SEEN },
  };
};

const DAYS = (sql: string): string => `floor(extract(epoch FROM {now} - ${sql}) / 86400)`;
export const daysSince = (sql: string, joins: readonly string[] = []): SqlField => ({
  sql: DAYS(sql),
  joins,
});

const openTasks = (column: string): string => `FROM tasks k WHERE k.${column} = {r}.id AND k.done_at IS NULL`;
/** The next move of what tasks name in a column. */
export const moveJoin = (column: string): SqlJoin => ({
  sql: `LEFT JOIN LATERAL (SELECT k.due_at, k.title ${openTasks(column)} ORDER BY k.due_at, k.id LIMIT 1) {r.move} ON true`,
});
export const nextMove = (column: string) => {
  const yes = `EXISTS (SELECT 1 ${openTasks(column)})`;
  return {
    nextMoveDue: joined('move', 'due_at', { yes, no: `NOT ${yes}` }),
    nextMoveTitle: joined('move', 'title', { yes, no: `NOT ${yes}` }),
  };
};

/** What a deal is worth in the organisation's currency, in minor units. */
export const worth = (deal: string): string => `{worth: ${deal}.amount_minor in ${deal}.currency}`;
/** Open deals among those of `from`, which names them `d`. */
export const dealsJoin = (from: string): SqlJoin => ({
  sql: `LEFT JOIN LATERAL (SELECT count(*) AS n, sum(${worth('d')}) AS worth FROM ${from} AND d.closed_at IS NULL) {r.deals} ON true`,
});
export const openDeals = (from: string) => {
  const yes = `EXISTS (SELECT 1 FROM ${from} AND d.closed_at IS NULL)`;
  return {
    openDeals: joined('deals', 'n', { cast: 'int8', isRequired: true, yes, no: `NOT ${yes}` }),
    openDealsMinor: joined('deals', 'worth'),
  };
};

/** The kind of the newest word with what the links name in a column. */
export const lastKind = (column: string): SqlField => ({
  sql: `(SELECT n.kind FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
    WHERE k.${column} = {r}.id AND n.kind IN ('mail', 'call', 'meeting', 'visit') ORDER BY k.at DESC, k.entry_id DESC LIMIT 1)`,
});

export const lookAlike = (kind: 'person' | 'company'): SqlField => ({
  sql: `EXISTS (SELECT 1 FROM look_alikes a WHERE a.kind = '${kind}' AND a.state = 'open' AND a.members @> ARRAY[{r}.id])`,
});

/** Whether colleagues entered something since whoever asks looked at it last. */
export const newForMe = (kind: 'people' | 'companies'): SqlField => ({
  sql: `(${isNewFor(kind, '{r}.id', '{me}')})`,
});
/** One's own deals, as the board counts them: since they were made, where one never looked at them. */
export const newDealForMe: SqlField = {
  sql: `(${isNewFor('deals', '{r}.id', '{me}')} OR {r}.owner_id = {me} AND NOT EXISTS (
      SELECT 1 FROM looks l WHERE l.user_id = {me} AND l.record_id = {r}.id) AND EXISTS (
      SELECT 1 FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
       WHERE k.deal_id = {r}.id AND n.created_at > {r}.created_at AND n.actor_id <> {me}))`,
};

export const madeAt = {
  createdAt: column('created_at', { isRequired: true }),
  updatedAt: column('updated_at', { isRequired: true }),
} satisfies Record<string, SqlField>;

/** Records that name this one in a column, or that it names. */
export const by = (table: string, column: string): SqlRelation => ({
  from: `${table} {t}`,
  on: `{t}.${column} = {r}.id`,
});
export const to = (table: string, column: string): SqlRelation => ({
  from: `${table} {t}`,
  on: `{t}.id = {r}.${column}`,
});
export const through = (between: string, own: string, table: string, other: string): SqlRelation => ({
  from: `${between} {x} JOIN ${table} {t} ON {t}.id = {x}.${other}`,
  on: `{x}.${own} = {r}.id`,
});
export const entriesOf = (column: string): SqlRelation =>
  through('ledger_links', column, 'ledger_entries', 'entry_id');
