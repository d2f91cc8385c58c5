import type { ConversionProposal } from '@emporikon/contract/leads';
import { proposeRole } from '@emporikon/core/lifecycle/conversion';
import { companyNameFromDomain } from '@emporikon/core/people/companies';
import { companyDomain } from '@emporikon/core/people/emails';
import { QueryTypes } from 'sequelize';
import type { Context } from '../commands/context';
import { knownCompany } from '../companies/candidates';
import { Lead } from '../db/models/deals';
import { Company, ContactPoint, Person } from '../db/models/people';
import { notFound } from '../http/problems';
import { knownPerson } from '../people/candidates';
import { leadRow, proposalFor } from './queries';

const rowsOf = <R extends object>(
  context: Context,
  sql: string,
  replacements: Record<string, unknown>,
): Promise<R[]> =>
  context.sequelize.query<R>(sql, { replacements, type: QueryTypes.SELECT, transaction: context.tx });

type Matches = ConversionProposal['company']['matches'];
const asMatches = (matches: Matches, except: string | null): Matches =>
  matches.filter((match) => match.id !== except).slice(0, 5);

async function companyFor(
  context: Context,
  lead: Lead,
  person: Person,
  emails: readonly string[],
): Promise<ConversionProposal['company']> {
  const id = lead.companyId ?? person.companyId;
  const current = id ? await Company.findByPk(id, { transaction: context.tx }) : null;
  const domain = current?.domain ?? emails.map(companyDomain).find(Boolean) ?? null;
  const name = current?.name ?? companyNameFromDomain(domain ?? '');
  if (!name) return { current: null, name: '', matches: [] };
  const { matches } = await knownCompany(context, {
    name,
    domain,
    phone: current?.phone ?? null,
    address: current?.address ?? null,
  });
  return {
    current: current ? { id: current.id, name: current.name } : null,
    name,
    matches: asMatches(matches as Matches, current?.id ?? null),
  };
}

async function personMatches(
  context: Context,
  person: Person,
  contacts: readonly ContactPoint[],
): Promise<Matches> {
  const of = (kind: ContactPoint['kind']): string[] =>
    contacts.filter((contact) => contact.kind === kind).map((contact) => contact.normalized);
  const company = person.companyId
    ? await Company.findByPk(person.companyId, { transaction: context.tx })
    : null;
  const { matches } = await knownPerson(context, {
    fullName: person.fullName,
    emails: of('email'),
    phones: of('phone'),
    profiles: of('profile'),
    companyName: company?.name ?? '',
  });
  return asMatches(matches as Matches, person.id);
}

/** Open deals that the lead may belong to: with the person on them, or with the company. */
const openDeals = (
  context: Context,
  personIds: readonly string[],
  companyIds: readonly string[],
): Promise<ConversionProposal['openDeals']> =>
  rowsOf(
    context,
    `SELECT d.id, d.title AS name, s.name AS stage, d.amount_minor AS "amountMinor", d.currency, u.name AS owner,
            CASE WHEN EXISTS (SELECT 1 FROM deal_roles r WHERE r.deal_id = d.id AND r.person_id IN (:people)) THEN 'they have a part in it' ELSE 'it is with the same company' END AS why
       FROM deals d JOIN stages s ON s.id = d.stage_id JOIN users u ON u.id = d.owner_id
      WHERE s.kind = 'open' AND d.id IN (SELECT id FROM deals WHERE company_id IN (:companies) UNION SELECT deal_id FROM deal_roles WHERE person_id IN (:people))
      ORDER BY why DESC, d.stage_since DESC LIMIT 10`,
    {
      people: personIds,
      companies: companyIds.length ? companyIds : ['00000000-0000-0000-0000-000000000000'],
    },
  );

/** Who else may have a part: people in the messages of the lead, proposed, and colleagues, offered. */
async function others(
  context: Context,
  lead: Lead,
  companyId: string | null,
): Promise<ConversionProposal['people']> {
  const rows = await rowsOf<{ id: string; name: string; job_title: string | null; is_said: boolean }>(
    context,
    `WITH said AS (
       SELECT DISTINCT o.person_id AS id FROM ledger_links k JOIN ledger_links o ON o.entry_id = k.entry_id AND o.person_id IS NOT NULL WHERE k.lead_id = :leadId)
     SELECT p.id, p.full_name AS name, p.job_title, p.id IN (SELECT id FROM said) AS is_said
       FROM people p WHERE p.id <> :personId AND p.inactive_since IS NULL AND p.id IN (SELECT id FROM said UNION SELECT id FROM people WHERE company_id = :companyId)
      ORDER BY is_said DESC, p.full_name LIMIT 12`,
    { leadId: lead.id, personId: lead.personId, companyId },
  );
  return rows.map((row) => ({
    id: row.id,
    name: row.name,
    jobTitle: row.job_title,
    role: proposeRole(row.job_title, false),
    why: row.is_said ? 'in the messages of the lead' : 'works there too',
    isProposed: row.is_said,
  }));
}

async function carriedWith(context: Context, lead: Lead): Promise<ConversionProposal['carried']> {
  const [row] = await rowsOf<{ entries: number; captures: number; moves: string[]; answers: string[] }>(
    context,
    `SELECT (SELECT count(DISTINCT entry_id)::int FROM ledger_links WHERE lead_id = :id) AS entries,
            (SELECT count(DISTINCT n.capture_id)::int FROM ledger_links k JOIN ledger_entries n ON n.id = k.entry_id WHERE k.lead_id = :id AND n.capture_id IS NOT NULL) AS captures,
            ARRAY(SELECT title FROM tasks WHERE lead_id = :id AND done_at IS NULL AND deal_id IS NULL ORDER BY due_at) AS moves,
            ARRAY(SELECT q.label FROM lead_answers a JOIN questions q ON q.id = a.question_id WHERE a.lead_id = :id AND a.answer <> '' ORDER BY q.position) AS answers`,
    { id: lead.id },
  );
  const counted = (count: number, one: string, many: string, names: string[] = []) => ({
    what: count === 1 ? one : many,
    count,
    names,
  });
  const { entries = 0, captures = 0, moves = [], answers = [] } = row ?? {};
  const all = [
    counted(entries, 'ledger entry', 'ledger entries'),
    counted(captures, 'message as it came', 'messages as they came'),
    counted(moves.length, 'next move', 'next moves', moves),
    counted(answers.length, 'answer', 'answers', answers),
  ];
  return all.filter((one) => one.count > 0);
}

/** What a conversion of a lead would make and carry along, and what of it is already there. @throws 404 */
export async function conversionProposal(context: Context, id: string): Promise<ConversionProposal> {
  const lead = await Lead.findByPk(id, { transaction: context.tx });
  const person = lead && (await Person.findByPk(lead.personId, { transaction: context.tx }));
  if (!lead || !person) throw notFound('There is no such lead.');
  const { proposal } = await proposalFor(context, lead, await leadRow(context, id));
  const contacts = await ContactPoint.findAll({ where: { personId: person.id }, transaction: context.tx });
  const emails = contacts.filter((contact) => contact.kind === 'email').map((contact) => contact.normalized);
  const company = await companyFor(context, lead, person, emails);
  const matches = await personMatches(context, person, contacts);
  const likely = (all: Matches): string[] =>
    all.filter((match) => match.probability >= 0.5).map((match) => match.id);
  const companies = [...(company.current ? [company.current.id] : []), ...likely(company.matches)];
  return {
    proposal,
    company,
    person: { matches },
    openDeals: await openDeals(context, [person.id, ...likely(matches)], companies),
    people: [
      {
        id: person.id,
        name: person.fullName,
        jobTitle: person.jobTitle,
        role: proposeRole(person.jobTitle, true),
        why: 'the lead is theirs',
        isProposed: true,
      },
      ...(await others(context, lead, companies[0] ?? null)),
    ],
    carried: await carriedWith(context, lead),
  };
}
