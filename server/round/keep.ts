import { quietFrom, rhythmOf, type RhythmRule } from '@emporikon/core/ledger/rhythm';
import { QueryTypes } from 'sequelize';
import { z } from 'zod';
import { runInTransaction, type Context } from '../commands/context';
import type { Tools, Within } from '../commands/types';
import { RhythmRow } from '../db/models/round';
import { defineJob } from '../jobs/job';

type Asked = Pick<Context, 'sequelize' | 'tx'>;

export async function loadRules(tx: Context['tx']): Promise<RhythmRule[]> {
  const rows = await RhythmRow.findAll({ transaction: tx });
  return rows.map(({ kind, value, days }) => ({ kind, value, days }));
}

interface Row {
  id: string;
  owner_id: string | null;
  own: number | null;
  company: number | null;
  tags: string[];
  standing: string;
  spoken_at: Date | null;
  created_at: Date;
  inactive: boolean;
}

const OPEN_LEAD = "l.status IN ('new', 'working', 'qualified')";
/** Whoever looks after them: their owner, that of their company, of their open lead or deal, or who spoke to them last. */
const OWNER = `coalesce(p.owner_id, c.owner_id,
  (SELECT l.owner_id FROM leads l WHERE l.person_id = p.id AND ${OPEN_LEAD} ORDER BY l.created_at DESC LIMIT 1),
  (SELECT d.owner_id FROM deal_roles r JOIN deals d ON d.id = r.deal_id WHERE r.person_id = p.id AND d.closed_at IS NULL ORDER BY d.created_at DESC LIMIT 1),
  (SELECT n.actor_id FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id
    WHERE k.person_id = p.id AND n.side = 'ours' AND n.actor_id IS NOT NULL ORDER BY k.at DESC, k.entry_id DESC LIMIT 1))`;

/** Keeps in whose round each of some people is, and when they are going quiet. Inactive ones are in nobody's. */
export async function keepRound(asked: Asked, ids: readonly string[]): Promise<void> {
  if (!ids.length) return;
  const rules = await loadRules(asked.tx);
  const rows = await asked.sequelize.query<Row>(
    `SELECT p.id, ${OWNER} AS owner_id, p.rhythm_days AS own, c.rhythm_days AS company, p.tags, p.standing, t.spoken_at, p.created_at,
            p.inactive_since IS NOT NULL AS inactive
       FROM people p LEFT JOIN companies c ON c.id = p.company_id LEFT JOIN turns t ON t.person_id = p.id WHERE p.id = ANY ($ids::uuid[])`,
    { bind: { ids: [...ids] }, type: QueryTypes.SELECT, transaction: asked.tx },
  );
  const kept = rows.map((row) => ({
    id: row.id,
    owner: row.inactive ? null : row.owner_id,
    quiet: quietFrom(
      rhythmOf(row, rules),
      row.spoken_at?.toISOString() ?? null,
      row.created_at.toISOString(),
    ),
  }));
  await asked.sequelize.query(
    `INSERT INTO turns (person_id, turn, because, is_live, owner_id, quiet_at)
     SELECT r.id, 'nobody', '', false, r.owner, r.quiet FROM jsonb_to_recordset($rows::jsonb) r (id uuid, owner uuid, quiet timestamptz)
      WHERE r.quiet IS NOT NULL OR EXISTS (SELECT 1 FROM turns t WHERE t.person_id = r.id)
     ON CONFLICT (person_id) DO UPDATE SET owner_id = EXCLUDED.owner_id, quiet_at = EXCLUDED.quiet_at`,
    { bind: { rows: JSON.stringify(kept) }, transaction: asked.tx },
  );
}

const MOVES_PERSON = ['ownerId', 'companyId', 'standing', 'tags', 'rhythmDays', 'inactiveSince'] as const;
const MOVES_COMPANY = ['ownerId', 'rhythmDays'] as const;
const MOVES_WORK = ['ownerId', 'status', 'closedAt'] as const;
/** Of a company so many people at most follow at once; the rest at night. */
const MOST_AT_ONCE = 1000;

const isMoved = (
  keys: readonly string[],
  before: Record<string, unknown> | null,
  after: Record<string, unknown> | null,
): boolean =>
  keys.some((key) => JSON.stringify(before?.[key] ?? null) !== JSON.stringify(after?.[key] ?? null));

const idIn = (row: Record<string, unknown> | null, key: string): string[] => {
  const id = row?.[key];
  return typeof id === 'string' ? [id] : [];
};

/** In whose round somebody is follows their owner, their work and what is said with them. */
export const followRound: Within = async (tools: Tools, tx, { changes }) => {
  const people = new Set<string>();
  const companies = new Set<string>();
  const deals = new Set<string>();
  for (const { table, id, before, after } of changes) {
    if (table === 'people' && after && isMoved(MOVES_PERSON, before, after)) people.add(id);
    if (table === 'companies' && before && isMoved(MOVES_COMPANY, before, after)) companies.add(id);
    if (table === 'leads' && isMoved(MOVES_WORK, before, after))
      for (const personId of idIn(after ?? before, 'personId')) people.add(personId);
    if (table === 'deals' && before && isMoved(MOVES_WORK, before, after)) deals.add(id);
    if (table === 'ledger_links' || table === 'deal_roles')
      for (const personId of [...idIn(before, 'personId'), ...idIn(after, 'personId')]) people.add(personId);
    if (table === 'merges') for (const personId of idIn(after ?? before, 'survivorId')) people.add(personId);
  }
  const asked = { sequelize: tools.sequelize, tx };
  if (companies.size || deals.size)
    for (const { id } of await tools.sequelize.query<{ id: string }>(
      `SELECT id FROM people WHERE company_id = ANY ($companies::uuid[]) UNION SELECT person_id FROM deal_roles WHERE deal_id = ANY ($deals::uuid[]) LIMIT ${MOST_AT_ONCE}`,
      { bind: { companies: [...companies], deals: [...deals] }, type: QueryTypes.SELECT, transaction: tx },
    ))
      people.add(id);
  await keepRound(asked, [...people]);
};

const LOT = 500;

async function keepNext(tools: Tools, after: string): Promise<string | null> {
  return runInTransaction(tools, null, async (context) => {
    const rows = await context.sequelize.query<{ id: string }>(
      `SELECT id FROM people WHERE id > $after::uuid ORDER BY id LIMIT ${LOT}`,
      { bind: { after }, type: QueryTypes.SELECT, transaction: context.tx },
    );
    await keepRound(
      context,
      rows.map((row) => row.id),
    );
    return rows.at(-1)?.id ?? null;
  });
}

/** Keeps the round of everybody anew: when a rhythm of many changed, and every night. */
export const keepRoundsJob = defineJob({
  name: 'keepRounds',
  lane: 'long',
  input: z.unknown(),
  cron: '10 3 * * *',
  run: async (tools) => {
    for (
      let after: string | null = '00000000-0000-0000-0000-000000000000';
      after;
      after = await keepNext(tools, after)
    );
  },
});
