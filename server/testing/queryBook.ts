import type { PlainRecord } from '@emporikon/core/query/types';
import type { Sequelize } from 'sequelize';
import { seededRandom } from './fuzz';

/** A random small organisation, as rows of the database and as plain records that say the same. */
export interface QueryBook {
  now: string;
  users: { id: string; team: string }[];
  records: Record<'person' | 'company' | 'lead' | 'deal' | 'task', PlainRecord[]>;
}
type Row = Record<string, unknown> & { id: string };

const NAMES = [
  'Inês Duarte',
  'Åsa Öberg',
  'Zoë Brandt',
  'ines duarte',
  "Aoife O'Dea",
  'Élodie Roux',
  '李 雷',
  '42 Ltd',
  'straße',
  '_%',
];
const TITLES = ['Owner', 'Head of Deliveries', 'buyer', null, '', 'Café lead'];
const COUNTRIES = ['PT', 'IE', 'DE', null];
const TAGS = ['bakery', 'courier', 'vip', 'Ölmühle'];
const DAY_MS = 86_400_000;

export async function makeQueryBook(
  sequelize: Sequelize,
  users: QueryBook['users'],
  stages: { id: string; kind: string }[],
  seed: number,
): Promise<QueryBook> {
  const next = seededRandom(seed);
  const now = new Date('2026-03-29T10:30:00Z');
  const whole = (below: number): number => Math.floor(next() * below);
  const pick = <T>(values: readonly T[]): T => values[whole(values.length)] as T;
  const maybe = <T>(value: T): T | null => (next() < 0.6 ? value : null);
  const id = (): string => {
    const hex = Array.from({ length: 32 }, () => whole(16).toString(16)).join('');
    return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
  };
  // Many fall on the edges of days, weeks and months, and on the night on which the clocks change.
  const at = (): string => {
    const days = whole(800) - 400;
    const edge = pick([0, 0, 30 * 60_000, 3_600_000, DAY_MS - 1, whole(DAY_MS)]);
    const midnight = Date.UTC(2026, 2, 29) + days * (next() < 0.3 ? 1 : 30 / 31) * DAY_MS;
    return new Date(Math.floor(midnight / DAY_MS) * DAY_MS + edge).toISOString();
  };
  const day = (): string => at().slice(0, 10);
  const tags = (): string[] => TAGS.filter(() => next() < 0.3);
  const list = <T>(length: number, make: () => T): T[] => Array.from({ length }, make);
  const made = () => ({ created_at: at(), updated_at: at() });

  const companies: Row[] = list(8, () => ({
    ...{
      id: id(),
      name: pick(NAMES),
      name_key: 'x',
      legal_name: maybe(pick(NAMES)),
      industry: pick(['baker', 'courier', null]),
    },
    ...{
      employees: maybe(whole(300)),
      country: pick(COUNTRIES),
      owner_id: maybe(pick(users).id),
      is_important: next() < 0.3,
    },
    ...{ technologies: tags(), kind: pick(['firm', 'household']), ...made() },
  }));
  const people: Row[] = list(45, () => ({
    ...{
      id: id(),
      full_name: pick(NAMES),
      given_name: 'x',
      family_name: pick(NAMES),
      name_key: 'x',
      job_title: pick(TITLES),
    },
    ...{
      company_id: maybe(pick(companies).id),
      standing: pick(['stranger', 'prospect', 'customer', 'partner']),
    },
    ...{
      owner_id: maybe(pick(users).id),
      birthday: pick([null, day(), `--${day().slice(5)}`, '--02-29']),
      tags: tags(),
    },
    ...{
      is_important: next() < 0.2,
      inactive_since: next() < 0.2 ? at() : null,
      background: pick([null, '', '100 % sure']),
      ...made(),
    },
  }));
  const turns: Row[] = people
    .filter(() => next() < 0.7)
    .map((person) => ({
      ...{
        id: person.id,
        person_id: person.id,
        turn: pick(['ours', 'theirs', 'nobody']),
        since: maybe(at()),
        because: '',
      },
      ...{ spoken_at: maybe(at()), touched_at: maybe(at()), is_live: false },
    }));
  const leads: Row[] = list(15, () => ({
    ...{ id: id(), title: pick(NAMES), person_id: pick(people).id, company_id: maybe(pick(companies).id) },
    ...{
      status: pick(['new', 'working', 'qualified']),
      status_since: at(),
      source: pick(['form', 'referral']),
    },
    ...{ owner_id: pick(users).id, rating: pick([null, 'hot', 'cold']), ...made() },
  }));
  const unled = [...leads];
  const deals: Row[] = list(20, () => {
    const stage = pick(stages);
    return {
      ...{
        id: id(),
        title: pick(NAMES),
        company_id: maybe(pick(companies).id),
        lead_id: next() < 0.5 ? (unled.pop()?.id ?? null) : null,
      },
      ...{
        stage_id: stage.id,
        stage_since: at(),
        amount_minor: maybe(whole(5_000_000)),
        currency: pick(['EUR', 'USD', 'JPY']),
      },
      ...{ probability: whole(100), expected_close: maybe(day()), owner_id: pick(users).id, tags: tags() },
      ...{ closed_at: stage.kind === 'open' ? null : at(), ...made() },
    };
  });
  const roles: Row[] = deals.flatMap((deal) =>
    people
      .filter(() => next() < 0.06)
      .map((person) => ({ id: id(), deal_id: deal.id, person_id: person.id, role: 'decides' })),
  );
  const tasks: Row[] = list(40, () => ({
    ...{
      id: id(),
      title: pick(NAMES),
      kind: pick(['call', 'task']),
      due_at: at(),
      all_day: false,
      zone: 'UTC',
    },
    ...{ assignee_id: pick(users).id, person_id: maybe(pick(people).id), deal_id: maybe(pick(deals).id) },
    ...{ priority: pick(['high', 'normal', 'low']), done_at: maybe(at()), created_at: at() },
  }));

  const put = async (table: string, rows: readonly Row[], without: readonly string[] = []): Promise<void> => {
    const columns = Object.keys(rows[0] ?? {}).filter((column) => !without.includes(column));
    for (const row of rows)
      await sequelize.query(
        `INSERT INTO ${table} (${columns.join(', ')}) SELECT ${columns.join(', ')} FROM jsonb_populate_record(NULL::${table}, $1::jsonb)`,
        { bind: [JSON.stringify(row)] },
      );
  };
  await sequelize.query('TRUNCATE people, companies, leads, deals, deal_roles, tasks, turns CASCADE');
  await put('companies', companies);
  await put('people', people);
  await sequelize.query('DELETE FROM turns');
  await put('turns', turns, ['id']);
  await put('leads', leads);
  await put('deals', deals);
  await put('deal_roles', roles);
  await put('tasks', tasks);

  const find = (rows: readonly Row[], wanted: unknown): Row | undefined =>
    rows.find((row) => row.id === wanted);
  const rates: Record<string, number> = { EUR: 1, USD: 0.8 };
  const worth = ({ amount_minor: minor, currency }: Row): number | null => {
    const rate = rates[String(currency)];
    return minor === null || rate === undefined ? null : Math.round(Number(minor) * rate);
  };
  const firm = (company: Row | undefined) => ({
    ...{ companyName: company?.name ?? null, industry: company?.industry ?? null },
    ...{ employees: company?.employees ?? null, country: company?.country ?? null },
  });
  const owned = (owner: unknown) => ({ owner, team: users.find((user) => user.id === owner)?.team ?? null });
  const moveOf = (column: string, of: string) => {
    const [first] = tasks
      .filter((task) => task[column] === of && task.done_at === null)
      .sort((a, b) => (String(a.due_at) + a.id < String(b.due_at) + b.id ? -1 : 1));
    return { nextMoveDue: first?.due_at ?? null, nextMoveTitle: first?.title ?? null };
  };
  const openOf = (mine: readonly Row[]) => {
    const open = mine.filter((deal) => deal.closed_at === null);
    const sums = open.map(worth).filter((sum) => sum !== null);
    return { openDeals: open.length, openDealsMinor: sums.length ? sums.reduce((a, b) => a + b) : null };
  };
  const days = (from: unknown): number | null =>
    typeof from === 'string' ? Math.floor((now.getTime() - Date.parse(from)) / DAY_MS) : null;
  const madeOf = (row: Row) => ({ createdAt: row.created_at, updatedAt: row.updated_at });

  const plain: Record<string, Map<string, PlainRecord>> = {};
  const keep = (kind: string, row: Row, fields: object): void => {
    (plain[kind] ??= new Map()).set(row.id, { id: row.id, ...fields } as PlainRecord);
  };
  for (const row of companies)
    keep('company', row, {
      ...{
        companyName: row.name,
        legalName: row.legal_name,
        industry: row.industry,
        employees: row.employees,
      },
      ...{
        country: row.country,
        technologies: row.technologies,
        companyKind: row.kind,
        important: row.is_important,
      },
      ...{ peopleCount: people.filter((one) => one.company_id === row.id).length },
      ...{ ...owned(row.owner_id), ...moveOf('company_id', row.id), ...madeOf(row) },
      ...openOf(deals.filter((deal) => deal.company_id === row.id)),
    });
  for (const row of people) {
    const turn = find(turns, row.id);
    const mine = deals.filter((deal) =>
      roles.some((role) => role.deal_id === deal.id && role.person_id === row.id),
    );
    keep('person', row, {
      ...{
        fullName: row.full_name,
        familyName: row.family_name,
        jobTitle: row.job_title,
        standing: row.standing,
      },
      ...{
        tags: row.tags,
        birthday: row.birthday,
        important: row.is_important,
        inactive: row.inactive_since !== null,
      },
      ...{ background: row.background, turn: turn?.turn ?? 'nobody', turnSince: turn?.since ?? null },
      ...{
        lastSpokenTo: turn?.spoken_at ?? null,
        lastTouched: turn?.touched_at ?? null,
        daysQuiet: days(turn?.spoken_at),
      },
      ...{ ...firm(find(companies, row.company_id)), ...owned(row.owner_id), ...moveOf('person_id', row.id) },
      ...{ ...openOf(mine), ...madeOf(row) },
    });
  }
  for (const row of leads)
    keep('lead', row, {
      ...{
        title: row.title,
        fullName: find(people, row.person_id)?.full_name,
        status: row.status,
        rating: row.rating,
      },
      ...{ statusSince: row.status_since, daysInStatus: days(row.status_since), source: row.source },
      ...{ lastSpokenTo: find(turns, row.person_id)?.spoken_at ?? null },
      ...{ ...firm(find(companies, row.company_id)), ...owned(row.owner_id), ...madeOf(row) },
    });
  for (const row of deals)
    keep('deal', row, {
      ...{
        title: row.title,
        stage: row.stage_id,
        status: stages.find((stage) => stage.id === row.stage_id)?.kind,
      },
      ...{
        amountMinor: worth(row),
        currency: row.currency,
        winChance: row.probability,
        expectedClose: row.expected_close,
      },
      ...{
        stageSince: row.stage_since,
        daysInStage: days(row.stage_since),
        tags: row.tags,
        closedAt: row.closed_at,
      },
      ...{ source: find(leads, row.lead_id)?.source ?? null },
      ...{
        ...firm(find(companies, row.company_id)),
        ...owned(row.owner_id),
        ...moveOf('deal_id', row.id),
        ...madeOf(row),
      },
    });
  for (const row of tasks)
    keep('task', row, {
      ...{
        title: row.title,
        taskKind: row.kind,
        priority: row.priority,
        due: row.due_at,
        done: row.done_at !== null,
      },
      ...{ doneAt: row.done_at, overdue: row.done_at === null && String(row.due_at) < now.toISOString() },
      ...{
        fullName: find(people, row.person_id)?.full_name ?? null,
        createdAt: row.created_at,
        ...owned(row.assignee_id),
      },
    });
  const of = (kind: string, wanted: unknown): PlainRecord | null => plain[kind]?.get(String(wanted)) ?? null;
  const those = (kind: string, rows: readonly Row[]): PlainRecord[] =>
    rows.flatMap((row) => of(kind, row.id) ?? []);
  const link = (kind: string, row: Row, related: object): void =>
    void Object.assign(of(kind, row.id) ?? {}, related);
  for (const row of companies)
    link('company', row, {
      deals: those(
        'deal',
        deals.filter((deal) => deal.company_id === row.id),
      ),
    });
  for (const row of people)
    link('person', row, {
      company: of('company', row.company_id),
      deals: those(
        'deal',
        deals.filter((deal) => roles.some((role) => role.deal_id === deal.id && role.person_id === row.id)),
      ),
      leads: those(
        'lead',
        leads.filter((lead) => lead.person_id === row.id),
      ),
      tasks: those(
        'task',
        tasks.filter((task) => task.person_id === row.id),
      ),
    });
  for (const row of deals)
    link('deal', row, {
      company: of('company', row.company_id),
      people: those(
        'person',
        people.filter((person) =>
          roles.some((role) => role.deal_id === row.id && role.person_id === person.id),
        ),
      ),
      tasks: those(
        'task',
        tasks.filter((task) => task.deal_id === row.id),
      ),
    });
  for (const row of leads)
    link('lead', row, { person: of('person', row.person_id), company: of('company', row.company_id) });
  for (const row of tasks)
    link('task', row, { person: of('person', row.person_id), deal: of('deal', row.deal_id) });
  const all = (kind: string): PlainRecord[] => [...(plain[kind]?.values() ?? [])];
  return {
    now: now.toISOString(),
    users,
    records: {
      person: all('person'),
      company: all('company'),
      lead: all('lead'),
      deal: all('deal'),
      task: all('task'),
    },
  };
}
