import type { BulkKind, BulkRecord, Step } from '@emporikon/core/bulk/types';
import { QueryTypes, type Model, type ModelStatic } from 'sequelize';
import type { Context } from '../commands/context';
import { Deal, Lead } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import type { Concerned } from '../ledger/write';

/** How each kind of record is stored, as far as changes of many go. */
interface Stored {
  model: ModelStatic<Model>;
  /** The attribute that names it. */
  name: string;
  /** What steps look at beside the name and the owner. */
  read: readonly string[];
  /** What stands in the event beside what changed, for whatever follows it. */
  told: readonly string[];
  concerns: (row: Row) => Concerned;
}
/** A row as it is read: times in ISO 8601. */
export type Row = Record<string, unknown> & { id: string; version: number };

const idOf = (value: unknown): string | null => (typeof value === 'string' ? value : null);

const SIGHT = ['visibility', 'visibleTo'];

export const STORED: Readonly<Record<BulkKind, Stored>> = {
  person: {
    model: Person as ModelStatic<Model>,
    name: 'fullName',
    read: ['standing', 'standingTerm', 'tags', 'custom', 'inactiveSince', 'isImportant', ...SIGHT],
    told: ['companyId'],
    concerns: ({ id }) => ({ personId: id }),
  },
  company: {
    model: Company as ModelStatic<Model>,
    name: 'name',
    read: ['kind', 'kindTerm', 'custom', 'isImportant', ...SIGHT],
    told: [],
    concerns: ({ id }) => ({ companyId: id }),
  },
  lead: {
    model: Lead as ModelStatic<Model>,
    name: 'title',
    read: [
      'status',
      'statusTerm',
      'statusSince',
      'parkedUntil',
      'parkedFrom',
      'dropReason',
      'source',
      'custom',
      ...SIGHT,
    ],
    told: ['personId', 'companyId', 'dealId'],
    concerns: ({ id, personId, companyId, dealId }) => ({
      leadId: id,
      personId: idOf(personId),
      companyId: idOf(companyId),
      dealId: idOf(dealId),
    }),
  },
  deal: {
    model: Deal as ModelStatic<Model>,
    name: 'title',
    read: ['stageId', 'stageSince', 'probability', 'probabilityByHand', 'tags', 'custom', ...SIGHT],
    told: ['companyId', 'leadId'],
    concerns: ({ id, companyId }) => ({ dealId: id, companyId: idOf(companyId) }),
  },
};

const plain = (row: Record<string, unknown>): Row =>
  Object.fromEntries(
    Object.entries(row).map(([key, value]) => [key, value instanceof Date ? value.toISOString() : value]),
  ) as Row;

/**
 * Some records, in the order of their ids, as far as whoever asks may see them.
 * @param isLocked held until the end of the transaction
 */
export async function loadRows(
  context: Context,
  kind: BulkKind,
  ids: readonly string[],
  isLocked = false,
): Promise<Row[]> {
  const { model, name, read, told } = STORED[kind];
  const rows = await model.findAll({
    where: { id: [...ids] },
    attributes: ['id', 'version', name, 'ownerId', ...read, ...told],
    order: ['id'],
    raw: true,
    transaction: context.tx,
    lock: isLocked,
  });
  return rows.map((row) => plain(row as unknown as Record<string, unknown>));
}

const MEMBERS = `SELECT person_id AS id, list_id AS on FROM list_members WHERE list_id = ANY ($on::uuid[]) AND person_id = ANY ($ids::uuid[])
  UNION ALL SELECT person_id, project_id FROM project_people WHERE project_id = ANY ($on::uuid[]) AND person_id = ANY ($ids::uuid[])`;

/** The lists and projects that steps name and each of some people is on. */
export async function loadMemberships(
  context: Context,
  steps: readonly Step[],
  ids: readonly string[],
): Promise<Map<string, Set<string>>> {
  const on = steps.flatMap((step) =>
    step.do === 'list' || step.do === 'unlist' || step.do === 'project' ? step.to : [],
  );
  const found = new Map<string, Set<string>>();
  if (!on.length) return found;
  const rows = await context.sequelize.query<{ id: string; on: string }>(MEMBERS, {
    bind: { on, ids: [...ids] },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  for (const row of rows) found.set(row.id, (found.get(row.id) ?? new Set()).add(row.on));
  return found;
}

export const asRecord = (
  kind: BulkKind,
  row: Row,
  memberships: ReadonlyMap<string, ReadonlySet<string>>,
): BulkRecord =>
  ({
    ...row,
    name: String(row[STORED[kind].name] ?? ''),
    on: memberships.get(row.id) ?? new Set(),
  }) as unknown as BulkRecord;
