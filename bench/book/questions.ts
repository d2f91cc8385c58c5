/** A typical question: as a query, and as somebody would write it in SQL, its first page and its totals. */
export interface Question {
  name: string;
  query: Record<string, unknown>;
  page?: string;
  totals?: string;
}

const all = (...conditions: object[]) => ({ all: conditions });
const is = (field: string, ...value: unknown[]) => ({ field, op: 'is', value });
const asc = (field: string) => [{ field, direction: 'asc' }];
const desc = (field: string) => [{ field, direction: 'desc' }];
const ago = (days: number) => ({ away: -days, unit: 'day' });
const ACTIVE = 'p.inactive_since IS NULL';
const PEOPLE = ['fullName', 'jobTitle', 'companyName', 'owner'];
const WITH_FIRM = `SELECT p.id, p.full_name, p.job_title, c.name, p.owner_id FROM people p LEFT JOIN companies c ON c.id = p.company_id`;
const daysAgo = (days: number): string => `(current_date - ${days})`;

const people = (name: string, query: object, page?: string, totals?: string): Question => ({
  name,
  query: { kind: 'person', columns: PEOPLE, ...query },
  ...(page ? { page } : {}),
  ...(totals ? { totals } : {}),
});
const of =
  (kind: string, columns: readonly string[]) =>
  (name: string, query: object, page?: string, totals?: string): Question => ({
    name,
    query: { kind, columns, ...query },
    ...(page ? { page } : {}),
    ...(totals ? { totals } : {}),
  });
const companies = of('company', ['companyName', 'industry', 'country', 'owner']);
const deals = of('deal', ['title', 'companyName', 'stage', 'amountMinor', 'owner']);
const leads = of('lead', ['title', 'fullName', 'status', 'owner']);
const tasks = of('task', ['title', 'due', 'fullName', 'owner']);
const DEAL =
  'SELECT d.id, d.title, c.name, d.stage_id, d.amount_minor, d.owner_id FROM deals d LEFT JOIN companies c ON c.id = d.company_id';
const FIRST = 'LIMIT 61';

export const QUESTIONS: readonly Question[] = [
  people(
    'everybody by name',
    { order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people('how many people', {}, undefined, `SELECT count(*) FROM people p WHERE ${ACTIVE}`),
  people(
    'by standing',
    { groups: [{ field: 'standing' }] },
    undefined,
    `SELECT standing, count(*) FROM people p WHERE ${ACTIVE} GROUP BY ROLLUP (1)`,
  ),
  people(
    'by owner',
    { groups: [{ field: 'owner' }] },
    undefined,
    `SELECT owner_id, count(*) FROM people p WHERE ${ACTIVE} GROUP BY ROLLUP (1)`,
  ),
  people(
    'my prospects',
    { filter: all(is('standing', 'prospect'), is('owner', 'me')), order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.standing = 'prospect' AND p.owner_id = :me ORDER BY p.full_name, p.id ${FIRST}`,
    `SELECT count(*) FROM people p WHERE ${ACTIVE} AND p.standing = 'prospect' AND p.owner_id = :me`,
  ),
  people(
    'spoken to today',
    { filter: { field: 'lastSpokenTo', op: 'in', value: ago(0) }, order: desc('lastSpokenTo') },
    `${WITH_FIRM} JOIN turns t ON t.person_id = p.id WHERE ${ACTIVE} AND t.spoken_at >= current_date AND t.spoken_at < current_date + 1 ORDER BY t.spoken_at DESC, p.id ${FIRST}`,
  ),
  people(
    'not spoken to for 30 days, longest first',
    { filter: { field: 'lastSpokenTo', op: 'before', value: ago(30) }, order: asc('lastSpokenTo') },
    `${WITH_FIRM} JOIN turns t ON t.person_id = p.id WHERE ${ACTIVE} AND t.spoken_at < ${daysAgo(30)} ORDER BY t.spoken_at, p.id ${FIRST}`,
  ),
  people(
    'never spoken to or not since June',
    {
      filter: { not: { field: 'lastSpokenTo', op: 'since', value: { unit: 'month', day: '2026-06-01' } } },
      order: asc('fullName'),
    },
    `${WITH_FIRM} LEFT JOIN turns t ON t.person_id = p.id WHERE ${ACTIVE} AND (t.spoken_at >= '2026-06-01') IS NOT TRUE ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people(
    'no next move',
    {
      filter: all(is('standing', 'prospect'), { field: 'nextMoveDue', op: 'empty' }),
      order: asc('fullName'),
    },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.standing = 'prospect' AND NOT EXISTS (SELECT 1 FROM tasks k WHERE k.person_id = p.id AND k.done_at IS NULL) ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people(
    'with an open deal',
    { filter: { field: 'openDeals', op: 'over', value: 0 }, order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND EXISTS (SELECT 1 FROM deal_roles o JOIN deals d ON d.id = o.deal_id WHERE o.person_id = p.id AND d.closed_at IS NULL) ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people(
    'whose company has an open deal over 20k',
    {
      filter: {
        relation: 'company',
        has: 'any',
        where: {
          relation: 'deals',
          has: 'any',
          where: all(is('status', 'open'), { field: 'amountMinor', op: 'over', value: 2_000_000 }),
        },
      },
      order: asc('fullName'),
    },
    `${WITH_FIRM} WHERE ${ACTIVE} AND EXISTS (SELECT 1 FROM deals d WHERE d.company_id = p.company_id AND d.closed_at IS NULL AND d.amount_minor > 2000000) ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people(
    'in Portugal or Ireland',
    { filter: is('country', 'PT', 'IE'), order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND c.country IN ('PT', 'IE') ORDER BY p.full_name, p.id ${FIRST}`,
    `SELECT count(*) FROM people p JOIN companies c ON c.id = p.company_id WHERE ${ACTIVE} AND c.country IN ('PT', 'IE')`,
  ),
  people(
    'tagged florist',
    { filter: { field: 'tags', op: 'hasAny', value: ['florist'] }, order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.tags && '{florist}' ORDER BY p.full_name, p.id ${FIRST}`,
    `SELECT count(*) FROM people p WHERE ${ACTIVE} AND p.tags && '{florist}'`,
  ),
  people(
    'added this week',
    { filter: { field: 'createdAt', op: 'in', value: { unit: 'week', shift: 0 } }, order: desc('createdAt') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.created_at >= date_trunc('week', now()) ORDER BY p.created_at DESC, p.id ${FIRST}`,
  ),
  people(
    'our turn',
    { filter: is('turn', 'ours'), order: asc('turnSince') },
    `${WITH_FIRM} JOIN turns t ON t.person_id = p.id WHERE ${ACTIVE} AND t.turn = 'ours' AND t.since IS NOT NULL ORDER BY t.since, p.id ${FIRST}`,
  ),
  people(
    'birthdays in the next 14 days',
    {
      filter: { field: 'birthday', op: 'between', value: [ago(0), { away: 14, unit: 'day' }] },
      order: asc('birthday'),
    },
    `${WITH_FIRM} WHERE ${ACTIVE} AND right(p.birthday, 5) BETWEEN to_char(current_date, 'MM-DD') AND to_char(current_date + 14, 'MM-DD') ORDER BY right(p.birthday, 5), p.id ${FIRST}`,
  ),
  people(
    'job title contains manager',
    { filter: { field: 'jobTitle', op: 'contains', value: ['manager'] }, order: asc('fullName') },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.job_title ILIKE '%manager%' ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  people(
    'important and without an owner',
    {
      filter: all({ field: 'important', op: 'is', value: true }, { field: 'owner', op: 'empty' }),
      order: asc('fullName'),
    },
    `${WITH_FIRM} WHERE ${ACTIVE} AND p.is_important AND p.owner_id IS NULL ORDER BY p.full_name, p.id ${FIRST}`,
  ),
  companies(
    'companies by name',
    { order: asc('companyName') },
    `SELECT id, name, industry, country, owner_id FROM companies ORDER BY name, id ${FIRST}`,
  ),
  companies(
    'companies by country with their people',
    { groups: [{ field: 'country' }] },
    undefined,
    'SELECT country, count(*) FROM companies GROUP BY ROLLUP (1)',
  ),
  companies(
    'companies with two or more open deals',
    { filter: { field: 'openDeals', op: 'atLeast', value: 2 }, order: asc('companyName') },
    `SELECT c.id, c.name, c.industry, c.country, c.owner_id FROM companies c WHERE (SELECT count(*) FROM deals d WHERE d.company_id = c.id AND d.closed_at IS NULL) >= 2 ORDER BY c.name, c.id ${FIRST}`,
  ),
  companies(
    'companies over 50 employees in Germany',
    {
      filter: all(is('country', 'DE'), { field: 'employees', op: 'over', value: 50 }),
      order: desc('employees'),
    },
    `SELECT id, name, industry, country, owner_id FROM companies WHERE country = 'DE' AND employees > 50 ORDER BY employees DESC, id ${FIRST}`,
  ),
  deals(
    'open deals, largest first',
    { filter: is('status', 'open'), order: desc('amountMinor') },
    `${DEAL} WHERE d.closed_at IS NULL AND d.amount_minor IS NOT NULL ORDER BY d.amount_minor DESC, d.id ${FIRST}`,
  ),
  deals(
    'open deals by owner with their sum',
    {
      filter: is('status', 'open'),
      groups: [{ field: 'owner' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
    },
    undefined,
    'SELECT owner_id, count(*), sum(amount_minor) FROM deals WHERE closed_at IS NULL GROUP BY ROLLUP (1)',
  ),
  deals(
    'deals closing this month',
    {
      filter: all(is('status', 'open'), {
        field: 'expectedClose',
        op: 'in',
        value: { unit: 'month', shift: 0 },
      }),
      order: asc('expectedClose'),
    },
    `${DEAL} WHERE d.closed_at IS NULL AND d.expected_close >= date_trunc('month', current_date) AND d.expected_close < date_trunc('month', current_date) + interval '1 month' ORDER BY d.expected_close, d.id ${FIRST}`,
  ),
  deals(
    'open deals over 30 days in their stage',
    {
      filter: all(is('status', 'open'), { field: 'stageSince', op: 'before', value: ago(30) }),
      order: asc('stageSince'),
    },
    `${DEAL} WHERE d.closed_at IS NULL AND d.stage_since < ${daysAgo(30)} ORDER BY d.stage_since, d.id ${FIRST}`,
  ),
  deals(
    'won deals by month with their sum',
    {
      filter: is('status', 'won'),
      groups: [{ field: 'closedAt', by: 'month' }],
      totals: [{ how: 'sum', field: 'amountMinor' }],
    },
    undefined,
    "SELECT date_trunc('month', d.closed_at), count(*), sum(d.amount_minor) FROM deals d JOIN stages s ON s.id = d.stage_id WHERE s.kind = 'won' GROUP BY ROLLUP (1)",
  ),
  leads(
    'my open leads',
    { filter: all(is('status', 'new', 'working', 'qualified'), is('owner', 'me')), order: desc('createdAt') },
    `SELECT l.id, l.title, p.full_name, l.status, l.owner_id FROM leads l LEFT JOIN people p ON p.id = l.person_id WHERE l.status IN ('new', 'working', 'qualified') AND l.owner_id = :me ORDER BY l.created_at DESC, l.id ${FIRST}`,
  ),
  leads(
    'leads by source',
    { groups: [{ field: 'source' }] },
    undefined,
    'SELECT source, count(*) FROM leads GROUP BY ROLLUP (1)',
  ),
  tasks(
    'my overdue tasks',
    {
      filter: all(
        is('owner', 'me'),
        { field: 'done', op: 'is', value: false },
        { field: 'due', op: 'before', value: ago(0) },
      ),
      order: asc('due'),
    },
    `SELECT k.id, k.title, k.due_at, p.full_name, k.assignee_id FROM tasks k LEFT JOIN people p ON p.id = k.person_id WHERE k.assignee_id = :me AND k.done_at IS NULL AND k.due_at < current_date ORDER BY k.due_at, k.id ${FIRST}`,
  ),
];
