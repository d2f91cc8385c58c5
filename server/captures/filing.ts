import { UNNAMED_DEAL } from '@emporikon/core/lifecycle/conversion';
import { headingOf, titleOfWork } from '@emporikon/core/reading/heading';
import type { Filed, FilingInput } from '@emporikon/contract/filing';
import { proposeDeal } from '@emporikon/core/lifecycle/conversion';
import { standingWithWork } from '@emporikon/core/lifecycle/standing';
import type { Intent } from '@emporikon/core/reading/types';
import type { z } from 'zod';
import { requireActor, type Context } from '../commands/context';
import { caseOfCapture } from '../cases/fromCapture';
import { Project } from '../db/models/afterDeals';
import type { Capture, ClaimRow, IntentRow } from '../db/models/captures';
import { Deal, DealRoleRow, Lead } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import { choiceNeeded, conflict, invalid, notFound } from '../http/problems';
import { addTask } from '../tasks/add';
import { findOrMakeCompany } from '../companies/commands';
import { applyClaims } from '../people/claims';
import { makeLead } from '../leads/make';
import { makePerson } from '../people/commands';
import { lockIdentity } from '../people/identity';
import { makeDeal } from '../deals/make';
import { applyCardDetails } from '../people/cardDetails';
import { addBackground, organise } from '../people/organise';
import { User } from '../db/models/users';
import { settingsOfForm, settleSubmission } from '../forms/settle';
import { partnerOf } from './conversation';
import { enterLedger } from './entry';
import { fileOnOthers } from './onMessage';
import { workOfThread } from './openWork';
import { personFacts, recognise, type Recognised } from './recognise';
import { loadCapture, loadClaims, loadIntents } from './view';

/** What a person, a form or a mailbox decides of a filing; the rest follows from the verdict. */
export type FilingChoice = Partial<z.output<typeof FilingInput>> & {
  /** It goes to what is open with them and makes no lead of its own. */
  onlyOpenWork?: boolean;
  /** It is part of a larger command, whose event is also that of the filing. */
  isPart?: boolean;
};

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
    throw choiceNeeded('This may be somebody in your records. Say who it is, or that it is somebody new.', {
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
  name: string | undefined,
  { facts, company: verdict }: Recognised,
): Promise<Company | null> {
  if (choice === 'none' || (!facts.company && !choice && !name)) return null;
  if (choice && choice !== 'new') {
    const company = await Company.findByPk(choice, { transaction: context.tx, lock: true });
    if (!company) throw notFound('There is no such company.');
    return company;
  }
  if (name) return findOrMakeCompany(context, name, facts.company?.domain ?? null);
  if (!facts.company)
    throw invalid('Nothing says which company this is. Add its name first.', {
      fields: { companyName: 'is missing' },
    });
  const sure = verdict.kind === 'same' ? verdict.matches[0] : undefined;
  if (sure && choice !== 'new') return Company.findByPk(sure.id, { transaction: context.tx, lock: true });
  return findOrMakeCompany(context, facts.company.name, facts.company.domain);
}

interface Work {
  lead: Lead | null;
  deal: Deal | null;
}

/** The deal it is attached to, or the one that is opened for it. */
async function chooseDeal(
  context: Context,
  choice: FilingChoice,
  capture: Capture,
  person: Person,
  company: Company | null,
  intents: readonly IntentRow[],
): Promise<Deal> {
  if (typeof choice.deal === 'string') {
    const deal = await Deal.findByPk(choice.deal, { transaction: context.tx });
    if (!deal) throw invalid('There is no such deal.', { fields: { deal: 'does not exist' } });
    if (
      !(await DealRoleRow.findOne({
        where: { dealId: deal.id, personId: person.id },
        transaction: context.tx,
      }))
    )
      await context.write.insert(DealRoleRow, {
        id: context.newId(),
        dealId: deal.id,
        personId: person.id,
        role: 'influences',
      });
    return deal;
  }
  const proposal = propose(context, intents);
  const standing = standingWithWork(person.standing);
  if (standing !== person.standing)
    await context.write.update(person, { standing, updatedAt: context.now() });
  return makeDeal(context, person.id, {
    title: choice.deal?.title ?? titleFor(capture, proposal.title),
    companyId: company?.id ?? null,
    leadId: null,
    stageId: choice.deal?.stageId,
    amountMinor: choice.deal ? choice.deal.amountMinor : proposal.amountMinor,
    currency: choice.deal?.currency ?? proposal.currency,
    expectedClose: proposal.expectedClose,
    ownerId: choice.ownerId ?? requireActor(context).id,
  });
}

const propose = (context: Context, intents: readonly IntentRow[]): ReturnType<typeof proposeDeal> =>
  proposeDeal(
    intents as readonly Pick<Intent, 'kind' | 'value' | 'confidence'>[],
    '',
    '',
    context.house.currency,
  );

/** What a capture is about: the lead or deal that is open with them, or a lead or deal made for it. */
async function chooseWork(
  context: Context,
  choice: FilingChoice,
  capture: Capture,
  person: Person,
  company: Company | null,
  intents: readonly IntentRow[],
): Promise<Work> {
  if (choice.deal || choice.as === 'deal')
    return { lead: null, deal: await chooseDeal(context, choice, capture, person, company, intents) };
  const [open] = choice.lead || choice.as ? [] : await workOfThread(context, capture, person.id);
  if (choice.as === 'person' || choice.lead === 'none') return { lead: null, deal: null };
  if (open?.kind === 'deal')
    return { lead: null, deal: await Deal.findByPk(open.id, { transaction: context.tx }) };
  const leadId = choice.lead && choice.lead !== 'new' ? choice.lead : open?.id;
  if (leadId) {
    const lead = await Lead.findByPk(leadId, { transaction: context.tx, lock: true });
    if (!lead) throw notFound('There is no such lead.');
    const deal = await Deal.findOne({ where: { leadId }, transaction: context.tx });
    return { lead, deal };
  }
  if (choice.onlyOpenWork || (!choice.as && !choice.lead && !bringsALead(capture)))
    return { lead: null, deal: null };
  const proposal = propose(context, intents);
  const lead = await makeLead(context, person, {
    title: titleFor(capture, proposal.title),
    companyId: company?.id ?? null,
    source: choice.source ?? SOURCES[capture.kind],
    ...(choice.ownerId ? { ownerId: choice.ownerId } : {}),
    ...(choice.leadStatus ? { status: choice.leadStatus } : {}),
  });
  return { lead, deal: null };
}

async function chooseProject(context: Context, id: string | undefined): Promise<Project | null> {
  if (!id) return null;
  const project = await Project.findByPk(id, { transaction: context.tx });
  if (!project) throw invalid('There is no such project.', { fields: { project: 'does not exist' } });
  return project;
}

const SOURCES: Record<Capture['kind'], string> = {
  email: 'email',
  text: 'note',
  page: 'web profile',
  call: 'call',
  form: 'form',
  card: 'card',
  row: 'table',
};

/**
 * A card is an acquaintance, a conversation goes on what there is, and what no person wrote shows no interest; everything
 * else is interest until said otherwise.
 */
const bringsALead = (capture: Capture): boolean =>
  capture.kind !== 'card' && capture.message.page?.kind !== 'messages' && !capture.message.nature;

/** The title of the work that a capture begins. */
const titleFor = (capture: Capture, proposed: string): string =>
  titleOfWork(proposed === UNNAMED_DEAL ? null : proposed, headingOf(capture.kind, capture.message).subject);

/**
 * Turns a capture into records: the person and the company found or made, the lead, the claims with their sources, and
 * the mail in the ledger of all of them. One transaction, one event, one undo.
 * @throws 409 when it is filed already, or when the verdict is `maybe` and nobody chose
 */
export async function fileCapture(context: Context, captureId: string, given: FilingChoice): Promise<Filed> {
  const capture = await loadCapture(context, captureId, true);
  if (capture.state === 'filed') throw conflict('This is filed already.');
  // What a form says of those who fill it in holds wherever it is filed; whoever files may say otherwise.
  const choice =
    capture.kind === 'form' ? { ...(await settingsOfForm(context, capture.id)), ...given } : given;
  const claims = (await loadClaims(context, captureId)).filter(
    (claim: ClaimRow) => claim.fate === 'proposed',
  );
  const intents = (await loadIntents(context, captureId)).filter((intent) => intent.fate === 'proposed');
  await lockIdentity(context, personFacts(claims));
  const byFacts = await recognise(context, claims);
  const partner = await partnerOf(context, capture);
  const recognised = partner ? { ...byFacts, person: partner } : byFacts;
  const person = await choosePerson(context, choice.person, recognised);
  const company = await chooseCompany(context, choice.company, choice.companyName, recognised);
  const firm =
    company ??
    (choice.company === 'none' || !person.companyId
      ? null
      : await Company.findByPk(person.companyId, { transaction: context.tx }));
  await applyClaims(context, person, firm, claims);
  if (
    choice.ownerId &&
    !(await User.findOne({ where: { id: choice.ownerId, active: true }, transaction: context.tx }))
  )
    throw invalid('There is no such colleague.', { fields: { ownerId: 'does not exist' } });
  const { card } = capture.message;
  if (card) await applyCardDetails(context, person, card);
  await organise(context, person, { ...choice, tags: [...(choice.tags ?? []), ...(card?.tags ?? [])] });
  if (choice.note) await addBackground(context, person, choice.note);
  const whose = { personId: person.id, companyId: firm?.id ?? null };
  const about = await caseOfCapture(context, capture, choice, whose);
  const project = await chooseProject(context, choice.project);
  // What is said of a case or a project is no new interest.
  const isAfterwards = (about !== null || project !== null) && !choice.lead && !choice.deal;
  const { lead, deal } = isAfterwards
    ? { lead: null, deal: null }
    : await chooseWork(context, choice, capture, person, firm, intents);
  const all = {
    ...whose,
    leadId: lead?.id ?? null,
    dealId: deal?.id ?? null,
    projectId: project?.id ?? null,
    caseId: about?.id ?? null,
  };
  await enterLedger(context, capture, all);
  const also = await fileOnOthers(context, capture, person, recognised.facts.person.emails, choice.also);
  if (choice.nextMove) await addTask(context, choice.nextMove, all);
  await context.write.update(capture, { state: 'filed', filedAt: context.now() });
  if (capture.kind === 'form') await settleSubmission(context, capture.id, person.id);
  const eventId = choice.isPart
    ? null
    : await context.write.event('file capture', `Filed ${person.fullName}`, requireActor(context).id);
  return {
    eventId,
    also,
    person: { id: person.id, name: person.fullName },
    company: firm ? { id: firm.id, name: firm.name } : null,
    lead: lead ? { id: lead.id, name: lead.title } : null,
    deal: deal ? { id: deal.id, name: deal.title } : null,
    case: about ? { id: about.id, name: about.title } : null,
    project: project ? { id: project.id, name: project.title } : null,
  };
}
