import type { SightKind } from '@emporikon/contract/visibility';
import type { Model, ModelStatic } from 'sequelize';
import { Capture } from '../db/models/captures';
import type { Visibility } from '../db/models/columns';
import { Deal, Lead } from '../db/models/deals';
import { Task } from '../db/models/tasks';
import { LedgerEntry } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';

/** A record with what was chosen about who may see it. */
export type Chosen = Model & { id: string; visibility: Visibility | null; visibleTo: string[] };

interface SightRecord {
  table: string;
  model: ModelStatic<Chosen>;
  /** What stands for the record in a sentence, as SQL over `t`. */
  label: string;
  noun: string;
  /** The columns with those whose it is, and with what it belongs to. */
  owners: readonly string[];
  parents: readonly string[];
}

const as = (model: unknown): ModelStatic<Chosen> => model as ModelStatic<Chosen>;

/** The kinds of records of the API, each with its table; the database decides by the same columns (migration 0015). */
export const RECORDS: Readonly<Record<SightKind, SightRecord>> = {
  companies: {
    table: 'companies',
    model: as(Company),
    label: 't.name',
    noun: 'company',
    owners: ['owner_id'],
    parents: [],
  },
  people: {
    table: 'people',
    model: as(Person),
    label: 't.full_name',
    noun: 'person',
    owners: ['owner_id'],
    parents: ['company_id'],
  },
  leads: {
    table: 'leads',
    model: as(Lead),
    label: 't.title',
    noun: 'lead',
    owners: ['owner_id'],
    parents: ['person_id', 'company_id'],
  },
  deals: {
    table: 'deals',
    model: as(Deal),
    label: 't.title',
    noun: 'deal',
    owners: ['owner_id'],
    parents: ['company_id', 'lead_id'],
  },
  captures: {
    table: 'captures',
    model: as(Capture),
    label: "t.message ->> 'subject'",
    noun: 'capture',
    owners: ['captured_by'],
    parents: [],
  },
  ledger: {
    table: 'ledger_entries',
    model: as(LedgerEntry),
    label: 't.headline',
    noun: 'ledger entry',
    owners: ['actor_id'],
    parents: ['capture_id'],
  },
  tasks: {
    table: 'tasks',
    model: as(Task),
    label: 't.title',
    noun: 'next move',
    owners: ['assignee_id', 'created_by'],
    parents: ['person_id', 'company_id', 'lead_id', 'deal_id'],
  },
};

const KIND_OF = Object.fromEntries(
  (Object.entries(RECORDS) as [SightKind, SightRecord][]).map(([kind, { table }]) => [table, kind]),
) as Record<string, SightKind>;

export const kindOfTable = (table: string): SightKind => {
  const kind = KIND_OF[table];
  if (!kind) throw new Error(`${table} has no visibility`);
  return kind;
};
