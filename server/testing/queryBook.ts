import type { Sequelize } from 'sequelize';
import { seededRandom } from './fuzz';
import { plainRecords, type QueryBook, type Row, type Rows, type Stage } from './queryPlain';

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
/** Terms of an organisation's own, with what they count as. */
export const OWN_TERMS = [
  { list: 'standing', key: 'hot', countsAs: 'prospect' },
  { list: 'leadStatus', key: 'demo booked', countsAs: 'working' },
] as const;
const STANDINGS = [
  ...['stranger', 'prospect', 'customer', 'partner'].map((standing) => ({ standing, standing_term: null })),
  { standing: 'prospect', standing_term: 'hot' },
];
const STATUSES = [
  ...['new', 'working', 'qualified'].map((status) => ({ status, status_term: null })),
  { status: 'working', status_term: 'demo booked' },
];
const DAY_MS = 86_400_000;

/** Rows of the tables, the same for the same seed. */
function makeRows(users: QueryBook['users'], stages: Stage[], seed: number): Rows {
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
      ...pick(STANDINGS),
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
      ...pick(STATUSES),
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

  // Some on both sides of the 180th meridian, some in one and the same town.
  const places: Row[] = [...companies, ...people]
    .filter(() => next() < 0.7)
    .map(({ id: record, standing }) => ({
      ...{ id: record, record_id: record, kind: standing ? 'person' : 'company' },
      ...pick([
        { lon: -9.14, lat: 38.72 },
        { lon: -6.26, lat: 53.35 },
        { lon: 179.5 + whole(5) / 10, lat: -17 },
        { lon: -180 + whole(9) / 10, lat: -16.5 },
        { lon: whole(3600) / 10 - 180, lat: whole(1700) / 10 - 85 },
      ]),
      ...{ precision: 'town', town: 'x', country: 'PT' },
    }));

  return { now, companies, people, turns, leads, deals, roles, tasks, places };
}

async function putRows(sequelize: Sequelize, rows: Rows): Promise<void> {
  const { companies, people, turns, leads, deals, roles, tasks, places } = rows;
  const put = async (table: string, rows: readonly Row[], without: readonly string[] = []): Promise<void> => {
    const columns = Object.keys(rows[0] ?? {}).filter((column) => !without.includes(column));
    for (const row of rows)
      await sequelize.query(
        `INSERT INTO ${table} (${columns.join(', ')}) SELECT ${columns.join(', ')} FROM jsonb_populate_record(NULL::${table}, $1::jsonb)`,
        { bind: [JSON.stringify(row)] },
      );
  };
  await sequelize.query(
    'TRUNCATE people, companies, leads, deals, deal_roles, tasks, turns, places, places_due CASCADE',
  );
  await put('companies', companies);
  await put('people', people);
  await sequelize.query('DELETE FROM turns');
  await put('turns', turns, ['id']);
  await put('leads', leads);
  await put('deals', deals);
  await put('deal_roles', roles);
  await put('tasks', tasks);
  await put('places', places, ['id']);
}

/** Puts a random organisation in the place of whatever there is. */
export async function makeQueryBook(
  sequelize: Sequelize,
  users: QueryBook['users'],
  stages: Stage[],
  seed: number,
): Promise<QueryBook> {
  const rows = makeRows(users, stages, seed);
  await putRows(sequelize, rows);
  return { now: rows.now.toISOString(), users, records: plainRecords(rows, users, stages) };
}
