import type { SqlField, SqlKind } from '@emporikon/core/query/sql/storage';
import {
  by,
  column,
  companyJoin,
  daysSince,
  dealsJoin,
  entriesOf,
  FIRM,
  joined,
  lastKind,
  lookAlike,
  madeAt,
  moveJoin,
  newForMe,
  nextMove,
  openDeals,
  owned,
  ownerJoin,
  placed,
  through,
  to,
  worth,
} from './parts';

const contactPoint = (kind: string, value: string, order: string): SqlField => {
  const from = `FROM contact_points k WHERE k.person_id = {r}.id AND k.kind = '${kind}'`;
  return {
    sql: `(SELECT ${value} ${from} ORDER BY ${order}k.created_at, k.id LIMIT 1)`,
    yes: `EXISTS (SELECT 1 ${from})`,
    no: `NOT EXISTS (SELECT 1 ${from})`,
  };
};
const purposesIn = (state: string): string =>
  `ARRAY(SELECT s.purpose_id::text FROM consent_states s WHERE s.person_id = {r}.id AND s.topic_id IS NULL AND s.state = '${state}' ORDER BY 1)`;
const DEALS = 'deal_roles o JOIN deals d ON d.id = o.deal_id WHERE o.person_id = {r}.id';

export const person: SqlKind = {
  table: 'people',
  isRecord: '{r}.erased_at IS NULL',
  links: { companyName: '{r}.company_id' },
  joins: {
    company: companyJoin(),
    owner: ownerJoin(),
    turn: { sql: 'LEFT JOIN turns {r.turn} ON {r.turn}.person_id = {r}.id' },
    move: moveJoin('person_id'),
    deals: dealsJoin(DEALS),
  },
  fields: {
    fullName: column('full_name', { isRequired: true }),
    givenName: column('given_name'),
    familyName: column('family_name'),
    jobTitle: column('job_title'),
    department: column('department'),
    ...FIRM,
    city: column('address_parts[4]'),
    place: placed('{r}.id'),
    standing: { sql: 'coalesce({r}.standing_term, {r}.standing)', isRequired: true },
    ...owned(),
    email: contactPoint('email', 'k.value', ''),
    phone: contactPoint('phone', 'k.normalized', "(k.type = 'mobile') DESC NULLS LAST, "),
    consent: {
      sql: `(SELECT s.state FROM consent_states s JOIN purposes u ON u.id = s.purpose_id AND u.retired_at IS NULL AND u.kind = 'mail' WHERE s.person_id = {r}.id AND s.topic_id IS NULL
        ORDER BY array_position(ARRAY['agreed', 'unconfirmed', 'withdrawn'], s.state) LIMIT 1)`,
    },
    agreedTo: { sql: purposesIn('agreed') },
    withdrewFrom: { sql: purposesIn('withdrawn') },
    emailState: contactPoint('email', 'k.reach', "(k.reach = 'good') DESC, "),
    tags: column('tags'),
    lists: { sql: 'ARRAY(SELECT m.list_id::text FROM list_members m WHERE m.person_id = {r}.id ORDER BY 1)' },
    source: {
      sql: '(SELECT l.source FROM leads l WHERE l.person_id = {r}.id ORDER BY l.created_at, l.id LIMIT 1)',
    },
    lastSpokenTo: joined('turn', 'spoken_at'),
    lastTouched: joined('turn', 'touched_at'),
    daysQuiet: daysSince('{r.turn}.spoken_at', ['turn']),
    lastKind: lastKind('person_id'),
    turn: {
      sql: "coalesce({r.turn}.turn, 'nobody')",
      joins: ['turn'],
      only: { ours: "{r.turn}.turn = 'ours'" },
      knownJoins: ['turn'],
    },
    turnSince: joined('turn', 'since'),
    ...nextMove('person_id'),
    ...openDeals(DEALS),
    callsThisMonth: {
      sql: `(SELECT count(*) FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id WHERE k.person_id = {r}.id AND n.kind = 'call'
        AND k.at >= date_trunc('month', {now} AT TIME ZONE {zone}) AT TIME ZONE {zone} AND k.at <= {now})`,
      cast: 'int8',
      isRequired: true,
    },
    warmth: {
      sql: '(SELECT max(s.warmth) FROM leads l JOIN lead_scores s ON s.lead_id = l.id WHERE l.person_id = {r}.id)',
      cast: 'int4',
    },
    lookAlike: lookAlike('person'),
    newForMe: newForMe('people'),
    birthday: column('birthday'),
    important: column('is_important', { yes: '{r}.is_important', no: 'NOT {r}.is_important' }),
    inactive: {
      sql: '{r}.inactive_since IS NOT NULL',
      yes: '{r}.inactive_since IS NOT NULL',
      no: '{r}.inactive_since IS NULL',
    },
    background: column('background'),
    ...madeAt,
    triagedAt: column('triaged_at'),
  },
  relations: {
    company: to('companies', 'company_id'),
    deals: through('deal_roles', 'person_id', 'deals', 'deal_id'),
    leads: by('leads', 'person_id'),
    tasks: by('tasks', 'person_id'),
    entries: entriesOf('person_id'),
    cases: by('cases', 'person_id'),
  },
};

const OF_COMPANY = 'deals d WHERE d.company_id = {r}.id';
const overPeople = (sql: string): string =>
  `(SELECT ${sql} FROM people q JOIN turns w ON w.person_id = q.id WHERE q.company_id = {r}.id)`;
export const company: SqlKind = {
  table: 'companies',
  joins: {
    owner: ownerJoin(),
    move: moveJoin('company_id'),
    deals: dealsJoin(OF_COMPANY),
  },
  fields: {
    companyName: column('name', { isRequired: true }),
    legalName: column('legal_name'),
    companyKind: { sql: 'coalesce({r}.kind_term, {r}.kind)' },
    industry: column('industry'),
    employees: column('employees', { cast: 'int4' }),
    country: column('country'),
    place: placed('{r}.id'),
    domain: column('domain'),
    phone: column('phone'),
    technologies: column('technologies'),
    ...owned(),
    peopleCount: {
      sql: '(SELECT count(*) FROM people q WHERE q.company_id = {r}.id)',
      cast: 'int8',
      isRequired: true,
      yes: 'EXISTS (SELECT 1 FROM people q WHERE q.company_id = {r}.id)',
      no: 'NOT EXISTS (SELECT 1 FROM people q WHERE q.company_id = {r}.id)',
    },
    lastSpokenTo: { sql: overPeople('max(w.spoken_at)') },
    lastTouched: { sql: overPeople('max(w.touched_at)') },
    daysQuiet: daysSince(overPeople('max(w.spoken_at)')),
    lastKind: lastKind('company_id'),
    ...nextMove('company_id'),
    ...openDeals(OF_COMPANY),
    wonDealsMinor: {
      sql: `(SELECT sum(${worth('d')}) FROM deals d JOIN stages s ON s.id = d.stage_id WHERE d.company_id = {r}.id AND s.kind = 'won')`,
    },
    lookAlike: lookAlike('company'),
    newForMe: newForMe('companies'),
    important: column('is_important', { yes: '{r}.is_important', no: 'NOT {r}.is_important' }),
    ...madeAt,
  },
  relations: {
    people: by('people', 'company_id'),
    deals: by('deals', 'company_id'),
    leads: by('leads', 'company_id'),
    tasks: by('tasks', 'company_id'),
    entries: entriesOf('company_id'),
    cases: by('cases', 'company_id'),
    projects: by('projects', 'company_id'),
    parent: to('companies', 'parent_id'),
  },
};
