import type { Filed } from '@emporikon/contract/captures';
import { proposeDeal } from '@emporikon/core/lifecycle/conversion';
import type { Intent } from '@emporikon/core/reading/types';
import { whoActs, type Context } from '../commands/context';
import type { Capture, ClaimRow, IntentRow } from '../db/models/captures';
import { Deal, Lead, Task } from '../db/models/deals';
import { LedgerEntry, LedgerLink } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';
import { choiceNeeded, conflict, invalid, notFound } from '../http/problems';
import { findOrMakeCompany } from '../companies/commands';
import { applyClaims } from '../people/claims';
import { makeLead } from '../leads/make';
import { makePerson } from '../people/commands';
import { openWork } from './openWork';
import { recognise, type Recognised } from './recognise';
import { asRow, loadCapture, loadClaims, loadIntents } from './view';

export interface FilingChoice {
  person?: string;
  company?: string;
  lead?: string;
  nextMove?: {
    title: string;
    kind: 'call' | 'mail' | 'meeting' | 'task';
    dueAt: string;
    allDay: boolean;
    assigneeId?: string;
  } | null;
}

async function choosePerson(
  context: Context,
  choice: string | undefined,
  { person: verdict, facts }: Recognised,
): Promise<Person> {
  if (choice && choice !== 'new') {
    const person = await Person.findByPk(choice, { transaction: context.tx, lock: true });
    if (!person) throw notFound('There is no such person.');
    return person;
  }
  if (!choice && verdict.kind === 'maybe') {
    throw choiceNeeded('This may be somebody we know. Say who it is, or that it is somebody new.', {
      reasons: verdict.matches.map((match) => `${match.label} (${Math.round(match.probability * 100)}%)`),
    });
  }
  const [best] = verdict.matches;
  if (!choice && verdict.kind === 'same' && best) {
    const person = await Person.findByPk(best.id, { transaction: context.tx, lock: true });
    if (person) return person;
  }
  if (!facts.person.fullName && !facts.person.emails.length)
    throw invalid('Nothing says who this is. Add a name or an address first.', {
      fields: { fullName: 'is missing' },
    });
  return makePerson(context, facts.person.fullName || (facts.person.emails[0] ?? ''));
}

async function chooseCompany(
  context: Context,
  choice: string | undefined,
  { facts, company: verdict }: Recognised,
): Promise<Company | null> {
  if (choice === 'none' || (!facts.company && !choice)) return null;
  if (choice && choice !== 'new') {
    const company = await Company.findByPk(choice, { transaction: context.tx, lock: true });
    if (!company) throw notFound('There is no such company.');
    return company;
  }
  if (!facts.company)
    throw invalid('Nothing says which company this is. Add its name first.', {
      fields: { companyName: 'is missing' },
    });
  const sure = verdict.kind === 'same' ? verdict.matches[0] : undefined;
  if (sure && choice !== 'new') return Company.findByPk(sure.id, { transaction: context.tx, lock: true });
  return findOrMakeCompany(context, facts.company.name, facts.company.domain);
}

/** What a message is about: the lead or deal that is open with them, or a lead made for it. */
async function chooseWork(
  context: Context,
  choice: string | undefined,
  capture: Capture,
  person: Person,
  company: Company | null,
  intents: readonly IntentRow[],
): Promise<{ lead: Lead | null; deal: Deal | null }> {
  if (choice === 'none') return { lead: null, deal: null };
  const [open] = choice ? [] : await openWork(context, [person.id]);
  if (open?.kind === 'deal')
    return { lead: null, deal: await Deal.findByPk(open.id, { transaction: context.tx }) };
  const leadId = choice && choice !== 'new' ? choice : open?.id;
  if (leadId) {
    const lead = await Lead.findByPk(leadId, { transaction: context.tx, lock: true });
    if (!lead) throw notFound('There is no such lead.');
    const deal = await Deal.findOne({ where: { leadId }, transaction: context.tx });
    return { lead, deal };
  }
  const proposal = proposeDeal(
    intents as readonly Pick<Intent, 'kind' | 'value' | 'confidence'>[],
    '',
    '',
    context.house.currency,
  );
  const lead = await makeLead(context, person, {
    title: proposal.title === 'New deal' ? titleOf(capture) : proposal.title,
    companyId: company?.id ?? null,
    source: 'email',
  });
  return { lead, deal: null };
}

const titleOf = (capture: Capture): string =>
  asRow(capture)
    .subject.replace(/^\s*(?:(?:re|fwd?|aw|wg|sv|tr|enc|rv)\s*:\s*)+/i, '')
    .slice(0, 200) || 'A message';

/** One entry in the ledger of everybody it concerns. */
async function enterLedger(
  context: Context,
  capture: Capture,
  intents: readonly IntentRow[],
  about: { person: Person; company: Company | null; lead: Lead | null; dealId: string | null },
): Promise<void> {
  const { message } = capture;
  const entry = await context.write.insert(LedgerEntry, {
    id: context.newId(),
    at: message.sentAt ? new Date(message.sentAt) : capture.receivedAt,
    side: message.side,
    kind: capture.kind === 'email' ? 'mail' : 'note',
    headline: asRow(capture).subject,
    body: message.said.slice(0, 280),
    asks: intents
      .filter((one) => one.kind === 'ask')
      .map((one) => ('what' in one.value ? one.value.what : ''))
      .slice(0, 3),
    captureId: capture.id,
    actorId: null,
    createdAt: context.now(),
  });
  const blank = { personId: null, companyId: null, leadId: null, dealId: null };
  const link = (
    to:
      | Partial<typeof blank>
      | { personId: string }
      | { companyId: string }
      | { leadId: string }
      | { dealId: string },
  ): Promise<LedgerLink> =>
    context.write.insert(LedgerLink, { id: context.newId(), entryId: entry.id, ...blank, ...to });
  await link({ personId: about.person.id });
  if (about.company) await link({ companyId: about.company.id });
  if (about.lead) await link({ leadId: about.lead.id });
  if (about.dealId) await link({ dealId: about.dealId });
}

/**
 * Turns a capture into records: the person and the company found or made, the lead, the claims with their sources, and
 * the mail in the ledger of all of them. One transaction, one event, one undo.
 * @throws 409 when it is filed already, or when the verdict is `maybe` and nobody chose
 */
export async function fileCapture(context: Context, captureId: string, choice: FilingChoice): Promise<Filed> {
  const capture = await loadCapture(context, captureId, true);
  if (capture.state === 'filed') throw conflict('This is filed already.');
  const claims = (await loadClaims(context, captureId)).filter(
    (claim: ClaimRow) => claim.fate === 'proposed',
  );
  const intents = (await loadIntents(context, captureId)).filter((intent) => intent.fate === 'proposed');
  for (const key of claims
    .filter((claim) => claim.field === 'email')
    .map((claim) => `email:${claim.normalized ?? ''}`)
    .sort())
    await context.sequelize.query('SELECT pg_advisory_xact_lock(hashtextextended(:key, 0))', {
      replacements: { key },
      transaction: context.tx,
    });
  const recognised = await recognise(context, claims);
  const person = await choosePerson(context, choice.person, recognised);
  const company = await chooseCompany(context, choice.company, recognised);
  const firm =
    company ??
    (choice.company === 'none' || !person.companyId
      ? null
      : await Company.findByPk(person.companyId, { transaction: context.tx }));
  await applyClaims(context, person, firm, claims);
  const { lead, deal } = await chooseWork(context, choice.lead, capture, person, firm, intents);
  await enterLedger(context, capture, intents, { person, company: firm, lead, dealId: deal?.id ?? null });
  if (choice.nextMove) {
    const { title, kind, dueAt, allDay, assigneeId } = choice.nextMove;
    await context.write.insert(Task, {
      id: context.newId(),
      title,
      kind,
      dueAt: new Date(dueAt),
      allDay,
      assigneeId: assigneeId ?? whoActs(context).id,
      personId: person.id,
      companyId: firm?.id ?? null,
      leadId: lead?.id ?? null,
      dealId: deal?.id ?? null,
      createdBy: whoActs(context).id,
      createdAt: context.now(),
    });
  }
  await context.write.update(capture, { state: 'filed', filedAt: context.now() });
  const eventId = await context.write.event('file capture', `Filed ${person.fullName}`, whoActs(context).id);
  return {
    eventId,
    person: { id: person.id, name: person.fullName },
    company: firm ? { id: firm.id, name: firm.name } : null,
    lead: lead ? { id: lead.id, name: lead.title } : null,
    deal: deal ? { id: deal.id, name: deal.title } : null,
  };
}
