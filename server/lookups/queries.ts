import type {
  LookUpRow,
  LookUpRules as RulesView,
  LookUpSource as SourceView,
} from '@emporikon/contract/lookups';
import { FACT_NAMES } from '@emporikon/core/lookups/facts';
import { trusted } from '@emporikon/core/lookups/track';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import type { KeptAnswer, LookUpState } from '../db/models/lookUps';
import type { Reply } from '@emporikon/contract';
import { notFound } from '../http/problems';
import { decodeCursor, pageOf } from '../http/paging';
import { monthOf, spentInMonth } from './asking/budget';
import { loadRules, sourceRows } from './planning/rules';
import { loadTracks } from './planning/tracks';

interface Row {
  id: string;
  source: string;
  question: Record<string, string>;
  state: LookUpState;
  answer: KeptAnswer | null;
  trouble: string | null;
  price: number;
  tries: number;
  asked_at: Date;
  asked_by: string | null;
  by_name: string | null;
  person_id: string | null;
  person: string | null;
  company_id: string | null;
  company: string | null;
}

const named = (id: string | null, name: string | null): { id: string; name: string } | null =>
  id ? { id, name: name ?? '' } : null;

const SELECT = `SELECT l.*, u.name AS by_name, p.full_name AS person, c.name AS company FROM look_ups l
  LEFT JOIN users u ON u.id = l.asked_by LEFT JOIN people p ON p.id = l.person_id LEFT JOIN companies c ON c.id = l.company_id`;

function asRow(context: Context, row: Row): LookUpRow {
  const label = context.outside.lookUps.find((one) => one.key === row.source)?.label;
  return {
    id: row.id,
    source: label ?? row.source,
    question: row.question,
    state: row.state,
    told: [...new Set((row.answer?.facts ?? []).map((fact) => FACT_NAMES[fact.field]))],
    trouble: row.trouble,
    price: row.price,
    by: named(row.asked_by, row.by_name),
    person: named(row.person_id, row.person),
    company: named(row.company_id, row.company),
    at: row.asked_at.toISOString(),
    tries: row.tries,
  };
}

/** One question with its answer. @throws 404 */
export async function lookUpDetail(context: Context, id: string): Promise<Reply<'GET /api/look-ups/:id'>> {
  const [row] = await context.sequelize.query<Row>(`${SELECT} WHERE l.id = :id`, {
    replacements: { id },
    type: QueryTypes.SELECT,
    transaction: context.tx,
  });
  if (!row) throw notFound('There is no such look-up.');
  const facts = row.answer?.facts ?? [];
  return {
    ...asRow(context, row),
    facts: facts.map(({ field, value, confidence }) => ({ label: FACT_NAMES[field], value, confidence })),
  };
}

/** The log: what was asked, by whom, and what it cost, newest first. */
export async function listLookUps(
  context: Context,
  query: { cursor?: string; limit: number },
): Promise<{ items: LookUpRow[]; next: string | null }> {
  const [at = '', id = ''] = decodeCursor(query.cursor, 2);
  const rows = await context.sequelize.query<Row>(
    `${SELECT} WHERE :at = '' OR (l.asked_at, l.id::text) < (nullif(:at, '')::timestamptz, :id) ORDER BY l.asked_at DESC, l.id::text DESC LIMIT :limit`,
    { replacements: { at, id, limit: query.limit + 1 }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return pageOf(
    rows,
    query.limit,
    (row) => asRow(context, row),
    (row) => [row.asked_at.toISOString(), row.id],
  );
}

/** The sources with what they cost, how often they knew and how often their answers were kept. */
export async function listSources(context: Context): Promise<SourceView[]> {
  const rows = new Map((await sourceRows(context)).map((row) => [row.key, row]));
  const tracks = await loadTracks(context);
  return context.outside.lookUps.map((source) => {
    const row = rows.get(source.key);
    const { asked, kept } = tracks.of(source.key);
    const believed =
      source.tells.reduce((sum, one) => sum + one.accuracy, 0) / Math.max(1, source.tells.length);
    return {
      key: source.key,
      label: source.label,
      active: row?.active ?? true,
      price: source.price,
      charges: source.charges,
      perSecond: source.perSecond,
      asked,
      kept: kept.hits,
      decided: kept.of,
      keptShare: trusted(believed, kept),
      fields: source.tells.map(({ about, field }) => ({
        field: field === 'phone' && about === 'company' ? 'Switchboard' : FACT_NAMES[field],
        coverage: tracks.coverage(source, about, field),
        accuracy: tracks.accuracy(source, about, field),
      })),
      restsUntil: row?.openUntil && row.openUntil > context.now() ? row.openUntil.toISOString() : null,
      trouble: row?.trouble ?? null,
    };
  });
}

/** The rules with what was spent this month. */
export async function rulesView(context: Context): Promise<RulesView> {
  const { version, allowance, perUser, pointWorth, enough, automatic, fillBlanks, keepDays } =
    await loadRules(context);
  const month = monthOf(context.now());
  const spent = await spentInMonth(context, month, context.actor?.id ?? null);
  return {
    version,
    allowance,
    perUser,
    pointWorth,
    enough,
    automatic,
    fillBlanks,
    keepDays,
    currency: context.house.currency,
    month,
    spent: spent.house,
    spentByMe: spent.mine,
  };
}
