import type { LeadDetail, LeadRow } from '@emporikon/contract/leads';
import { proposeDeal } from '@emporikon/core/lifecycle/conversion';
import { nextLeadStatuses } from '@emporikon/core/lifecycle/terms';
import { Op, QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { loadTerms } from '../commands/terms';
import { asIntent, loadIntents } from '../captures/view';
import { Deal, Lead, LeadAnswer, Question } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import { User } from '../db/models/users';
import { notFound } from '../http/problems';
import { nextMoves, openMoves } from '../tasks/queries';
import { answersRead } from './answers';
import { leadsBy, leadsByChance, leadsByStatus, type LeadFilter, type LeadSort } from './page';

type Scores = NonNullable<LeadRow['scores']>;

async function scoresOf(context: Context, ids: readonly string[]): Promise<Map<string, Scores>> {
  const rows = ids.length
    ? await context.sequelize.query<Scores & { id: string }>(
        'SELECT lead_id AS id, fit, warmth, completeness, chance FROM lead_scores WHERE lead_id IN (:ids)',
        { replacements: { ids }, type: QueryTypes.SELECT, transaction: context.tx },
      )
    : [];
  return new Map(rows.map(({ id, ...scores }) => [id, scores]));
}

async function withNames(context: Context, leads: readonly Lead[]): Promise<LeadRow[]> {
  const byId = <T extends { id: string }>(rows: readonly T[]): Map<string, T> =>
    new Map(rows.map((row) => [row.id, row]));
  const people = byId(
    await Person.findAll({ where: { id: leads.map((lead) => lead.personId) }, transaction: context.tx }),
  );
  const companies = byId(
    await Company.findAll({
      where: { id: leads.flatMap((lead) => lead.companyId ?? []) },
      transaction: context.tx,
    }),
  );
  const owners = byId(
    await User.findAll({ where: { id: leads.map((lead) => lead.ownerId) }, transaction: context.tx }),
  );
  const moves = await nextMoves(
    context,
    'lead_id',
    leads.map((lead) => lead.id),
  );
  const scores = await scoresOf(
    context,
    leads.map((lead) => lead.id),
  );
  return leads.map((lead) => {
    const company = lead.companyId ? companies.get(lead.companyId) : undefined;
    return {
      id: lead.id,
      version: lead.version,
      title: lead.title,
      person: { id: lead.personId, name: people.get(lead.personId)?.fullName ?? '' },
      company: company ? { id: company.id, name: company.name } : null,
      status: lead.status,
      statusTerm: lead.statusTerm,
      statusSince: lead.statusSince.toISOString(),
      rating: lead.rating ?? null,
      source: lead.source,
      owner: { id: lead.ownerId, name: owners.get(lead.ownerId)?.name ?? '' },
      nextMove: moves.get(lead.id) ?? null,
      scores: scores.get(lead.id) ?? null,
      createdAt: lead.createdAt.toISOString(),
    };
  });
}

interface LeadQuery extends LeadFilter {
  sort: LeadSort;
  direction?: 'asc' | 'desc';
  cursor?: string;
  limit: number;
}

/** The orders that open a list are kept by an index of their own; the others go by one column. */
function pageOfLeads(context: Context, query: LeadQuery): Promise<{ ids: string[]; next: string | null }> {
  const direction = query.direction ?? (query.sort === 'title' ? 'asc' : 'desc');
  if (direction === 'desc' && query.sort === 'chance') return leadsByChance(context, query);
  if (direction === 'desc' && query.sort === 'status') return leadsByStatus(context, query);
  return leadsBy(context, { ...query, direction });
}

/** Leads by one of their columns, open ones first where nothing is said. */
export async function listLeads(
  context: Context,
  query: LeadQuery,
): Promise<{ items: LeadRow[]; next: string | null }> {
  const { ids, next } = await pageOfLeads(context, query);
  const leads = new Map(
    (await Lead.findAll({ where: { id: ids }, transaction: context.tx })).map((lead) => [lead.id, lead]),
  );
  return {
    items: await withNames(
      context,
      ids.flatMap((id) => leads.get(id) ?? []),
    ),
    next,
  };
}

export async function leadRow(context: Context, id: string): Promise<LeadRow> {
  const lead = await Lead.findByPk(id, { transaction: context.tx });
  const [row] = lead ? await withNames(context, [lead]) : [];
  if (!row) throw notFound('There is no such lead.');
  return row;
}

async function capturesOf(context: Context, leadId: string): Promise<{ id: string; subject: string }[]> {
  return context.sequelize.query<{ id: string; subject: string }>(
    `SELECT c.id, coalesce(nullif(c.message->>'subject', ''), 'Message') AS subject FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id JOIN captures c ON c.id = n.capture_id WHERE k.lead_id = :leadId ORDER BY n.at DESC`,
    { replacements: { leadId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
}

/** The deal a lead was converted to. */
export async function dealOf(context: Context, lead: Lead): Promise<Deal | null> {
  return lead.dealId
    ? Deal.findByPk(lead.dealId, { transaction: context.tx })
    : Deal.findOne({ where: { leadId: lead.id }, transaction: context.tx });
}

/** The event that made a lead's deal, for its undo; null when there is none or it was undone. */
export async function conversionEvent(context: Context, leadId: string): Promise<string | null> {
  const [row] = await context.sequelize.query<{ id: string }>(
    `SELECT e.id FROM events e WHERE e.command = 'convert lead' AND e.changes @> jsonb_build_array(jsonb_build_object('table', 'leads', 'id', :leadId::text))
       AND NOT EXISTS (SELECT 1 FROM events u WHERE u.undoes = e.id) ORDER BY e.at DESC, e.seq DESC LIMIT 1`,
    { replacements: { leadId }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return row?.id ?? null;
}

/** What was read of all the messages of a lead, and what a deal made of it would be. */
export async function proposalFor(
  context: Context,
  lead: Lead,
  row: LeadRow,
): Promise<{
  proposal: LeadDetail['proposal'];
  intents: LeadDetail['intents'];
  captures: LeadDetail['captures'];
}> {
  const captures = await capturesOf(context, lead.id);
  const rows = captures.length
    ? await loadIntents(
        context,
        captures.map((capture) => capture.id),
      )
    : [];
  const intents = rows.map(asIntent).filter((intent) => intent.fate === 'proposed');
  return {
    proposal: proposeDeal(intents, row.company?.name ?? '', row.person.name, context.house.currency),
    intents,
    captures,
  };
}

/** One lead with its questions and what a conversion would make. */
export async function leadDetail(context: Context, id: string): Promise<LeadDetail> {
  const lead = await Lead.findByPk(id, { transaction: context.tx });
  if (!lead) throw notFound('There is no such lead.');
  const row = await leadRow(context, id);
  const { proposal, intents, captures } = await proposalFor(context, lead, row);
  const answers = await LeadAnswer.findAll({ where: { leadId: id }, transaction: context.tx });
  const questions = await Question.findAll({
    where: { [Op.or]: [{ active: true }, { id: answers.map((answer) => answer.questionId) }] },
    order: ['position'],
    transaction: context.tx,
  });
  const read = await answersRead(context, captures, questions);
  const names = new Map(
    (
      await User.findAll({
        where: { id: answers.map((answer) => answer.answeredBy) },
        transaction: context.tx,
      })
    ).map((user) => [user.id, user.name]),
  );
  const deal = await dealOf(context, lead);
  return {
    ...row,
    moves: await openMoves(context, 'lead_id', id),
    parkedUntil: lead.parkedUntil ?? null,
    dropReason: lead.dropReason ?? null,
    nextStatuses: nextLeadStatuses(await loadTerms(context), lead.status, lead.statusTerm),
    intents,
    captures,
    proposal,
    deal: deal ? { id: deal.id, name: deal.title } : null,
    conversionEventId: deal ? await conversionEvent(context, id) : null,
    answers: questions.map((question) => {
      const answer = answers.find((answer) => answer.questionId === question.id);
      const proposed = answer?.answer ? undefined : read.find((one) => one.questionId === question.id);
      return {
        questionId: question.id,
        label: question.label,
        help: question.help,
        answer: answer?.answer ?? '',
        version: answer?.version ?? null,
        by: answer ? (names.get(answer.answeredBy) ?? null) : null,
        at: answer?.answeredAt.toISOString() ?? null,
        suggestion: proposed?.text ?? null,
        from: proposed ? { captureId: proposed.captureId, span: proposed.span } : null,
        evidence:
          answer?.captureId && answer.span ? { captureId: answer.captureId, span: answer.span } : null,
      };
    }),
  };
}
