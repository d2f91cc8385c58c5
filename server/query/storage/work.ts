import type { SqlKind } from '@emporikon/core/query/sql/storage';
import {
  by,
  column,
  companyJoin,
  entriesOf,
  joined,
  moveJoin,
  nextMove,
  owned,
  ownerJoin,
  personJoin,
  through,
  to,
} from './parts';

export const project: SqlKind = {
  table: 'projects',
  links: { companyName: '{r}.company_id' },
  joins: {
    company: companyJoin(),
    owner: ownerJoin(),
    stage: { sql: 'JOIN project_stages {r.stage} ON {r.stage}.id = {r}.stage_id' },
    move: moveJoin('project_id'),
  },
  fields: {
    title: column('title', { isRequired: true }),
    stage: column('stage_id', { cast: 'uuid', isRequired: true }),
    status: joined('stage', 'kind'),
    companyName: joined('company', 'name'),
    ...owned(),
    startsOn: column('starts_on'),
    dueOn: column('due_on'),
    progress: column('progress', { cast: 'int4' }),
    ...nextMove('project_id'),
    createdAt: column('created_at', { isRequired: true }),
    closedAt: column('closed_at'),
  },
  relations: {
    company: to('companies', 'company_id'),
    deal: to('deals', 'deal_id'),
    people: through('project_people', 'project_id', 'people', 'person_id'),
    tasks: by('tasks', 'project_id'),
    entries: entriesOf('project_id'),
  },
};

export const caseKind: SqlKind = {
  table: 'cases',
  links: { companyName: '{r}.company_id', fullName: '{r}.person_id' },
  joins: { company: companyJoin(), owner: ownerJoin(), person: personJoin, move: moveJoin('case_id') },
  fields: {
    title: column('title', { isRequired: true }),
    urgency: column('urgency', { isRequired: true }),
    cameBy: column('came_by', { isRequired: true }),
    solved: {
      sql: '{r}.solved_at IS NOT NULL',
      yes: '{r}.solved_at IS NOT NULL',
      no: '{r}.solved_at IS NULL',
    },
    fullName: joined('person', 'full_name'),
    companyName: joined('company', 'name'),
    ...owned(),
    openedAt: column('opened_at', { isRequired: true }),
    answerBy: column('answer_by', { isRequired: true }),
    solveBy: column('solve_by', { isRequired: true }),
    solvedAt: column('solved_at'),
    overdue: { sql: '({r}.solved_at IS NULL AND {r}.solve_by < {now})' },
    ...nextMove('case_id'),
  },
  relations: {
    person: to('people', 'person_id'),
    company: to('companies', 'company_id'),
    deal: to('deals', 'deal_id'),
    tasks: by('tasks', 'case_id'),
    entries: entriesOf('case_id'),
  },
};

const linked = (column: string): string =>
  `ledger_links k WHERE k.entry_id = {r}.id AND k.${column} IS NOT NULL ORDER BY k.id LIMIT 1`;
/** The record an entry is linked to first, as far as whoever asks may see it. */
const linkedTo = (table: string, column: string): string =>
  `(SELECT t.id FROM ${table} t WHERE t.id = (SELECT k.${column} FROM ${linked(column)}))`;
export const entry: SqlKind = {
  table: 'ledger_entries',
  links: {
    fullName: linkedTo('people', 'person_id'),
    companyName: linkedTo('companies', 'company_id'),
  },
  joins: {},
  fields: {
    headline: column('headline'),
    entryKind: column('kind', { isRequired: true }),
    side: column('side', { isRequired: true }),
    at: column('at', { isRequired: true }),
    author: column('actor_id'),
    outcome: column('outcome'),
    letterResult: {
      sql: `ARRAY(SELECT DISTINCT w.word FROM letter_recipients l, unnest(ARRAY[l.state, CASE WHEN l.opened_at IS NOT NULL THEN 'opened' END,
          CASE WHEN l.clicks > 0 THEN 'clicked' END, CASE WHEN l.answered_at IS NOT NULL THEN 'answered' END, CASE WHEN l.away_until IS NOT NULL THEN 'away' END]) w(word)
        WHERE l.capture_id = {r}.capture_id AND l.way <> 'bcc' AND w.word IS NOT NULL ORDER BY 1)`,
    },
    pinned: {
      sql: '{r}.pinned_at IS NOT NULL',
      yes: '{r}.pinned_at IS NOT NULL',
      no: '{r}.pinned_at IS NULL',
    },
    fullName: {
      sql: `(SELECT p.full_name FROM people p WHERE p.id = (SELECT k.person_id FROM ${linked('person_id')}))`,
    },
    companyName: {
      sql: `(SELECT c.name FROM companies c WHERE c.id = (SELECT k.company_id FROM ${linked('company_id')}))`,
    },
    createdAt: column('created_at', { isRequired: true }),
  },
  relations: {
    people: through('ledger_links', 'entry_id', 'people', 'person_id'),
    companies: through('ledger_links', 'entry_id', 'companies', 'company_id'),
    deals: through('ledger_links', 'entry_id', 'deals', 'deal_id'),
    leads: through('ledger_links', 'entry_id', 'leads', 'lead_id'),
  },
};

export const capture: SqlKind = {
  table: 'captures',
  joins: {},
  fields: {
    subject: { sql: "({r}.message ->> 'subject')" },
    captureKind: column('kind', { isRequired: true }),
    state: column('state', { isRequired: true }),
    tone: { sql: "({r}.message ->> 'tone')" },
    cameBy: column('came_by'),
    capturedBy: column('captured_by'),
    receivedAt: column('received_at', { isRequired: true }),
    filedAt: column('filed_at'),
  },
  relations: {},
};
