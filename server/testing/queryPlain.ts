import type { PlainRecord } from '@emporikon/core/query/types';

/** A random small organisation, as rows of the database and as plain records that say the same. */
export interface QueryBook {
  now: string;
  users: { id: string; team: string }[];
  records: Record<'person' | 'company' | 'lead' | 'deal' | 'task', PlainRecord[]>;
}
export type Row = Record<string, unknown> & { id: string };
export interface Stage {
  id: string;
  kind: string;
}
export interface Rows {
  now: Date;
  companies: Row[];
  people: Row[];
  turns: Row[];
  leads: Row[];
  deals: Row[];
  roles: Row[];
  tasks: Row[];
  places: Row[];
}

const DAY_MS = 86_400_000;

/** What the rows say, reckoned here and not by the database. */
export function plainRecords(
  rows: Rows,
  users: QueryBook['users'],
  stages: readonly Stage[],
): QueryBook['records'] {
  const { now, companies, people, turns, leads, deals, roles, tasks, places } = rows;
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
  /** Latitude and longitude of the first of these that has a place. */
  const placeOf = (...ids: readonly unknown[]): string | null => {
    const first = ids.find((one) => typeof one === 'string');
    const place = places.find((one) => one.record_id === first);
    return place ? `${String(place.lat)},${String(place.lon)}` : null;
  };
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
      place: placeOf(row.id),
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
        standing: row.standing_term ?? row.standing,
      },
      ...{
        tags: row.tags,
        birthday: row.birthday,
        important: row.is_important,
        inactive: row.inactive_since !== null,
      },
      place: placeOf(row.id),
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
        status: row.status_term ?? row.status,
        rating: row.rating,
      },
      place: placeOf(row.person_id, row.company_id),
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
        place: placeOf(row.company_id),
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
    person: all('person'),
    company: all('company'),
    lead: all('lead'),
    deal: all('deal'),
    task: all('task'),
  };
}
