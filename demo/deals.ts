import { normalizeValue } from '@emporikon/server/people/values';
import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { findOrMakeCompany } from '@emporikon/server/companies/commands';
import { Deal, DealRoleRow, Stage } from '@emporikon/server/db/models/deals';
import { Task } from '@emporikon/server/db/models/tasks';
import { type LedgerKind } from '@emporikon/server/db/models/ledger';
import { enter } from '@emporikon/server/ledger/write';
import { addPerson } from '@emporikon/server/people/commands';
import { Person } from '@emporikon/server/db/models/people';
import { DateTime } from 'luxon';
import { officeTime, workday } from './clock';
import { keepPast } from './past';

interface DemoDeal {
  company: string;
  domain: string;
  person: [name: string, title: string, localPart: string, phone: string];
  title: string;
  stage: string;
  days: number;
  amount: number;
  owner: 'Pell Garrick' | 'Ines Tolland' | 'Mara Quill';
  /** Kind, side, days ago, words; oldest first. */
  said: [LedgerKind, 'theirs' | 'ours' | 'within', number, string, string][];
  /** Title, kind, days from today (negative is overdue). */
  next?: [string, 'call' | 'mail' | 'meeting' | 'task', number];
}

const DEALS: readonly DemoDeal[] = [
  {
    company: 'Coral Crumb',
    domain: 'coralcrumb.example',
    person: ['Oluwaseun Adebayo', 'Head Baker', 'seun', '+447700900123'],
    title: 'Coral Crumb, 4 bikes',
    stage: 'Heard out',
    days: 1,
    amount: 18_000,
    owner: 'Pell Garrick',
    said: [
      ['call', 'ours', 3, 'Called him, 6 minutes', 'Four shops, wants one bike each by March.'],
      ['mail', 'theirs', 1, 'Four bikes by March', 'Asks for colours and the price with rain covers.'],
    ],
    next: ['Send colours and price', 'mail', 0],
  },
  {
    company: 'Dashline Couriers',
    domain: 'dashline.example',
    person: ['Clementine Ashdown', 'Operations Lead', 'clem', '+447700900234'],
    title: 'Dashline, 10 with boxes',
    stage: 'Heard out',
    days: 3,
    amount: 25_000,
    owner: 'Ines Tolland',
    said: [
      ['mail', 'theirs', 4, 'Ten bikes with boxes', 'Wants boxes that lock.'],
      ['mail', 'ours', 3, 'Boxes and locks', 'Sent the sheet of the 200 litre box.'],
    ],
    next: ['Ask whether the box fits', 'call', 2],
  },
  {
    company: 'Havnebud AS',
    domain: 'havnebud.example',
    person: ['Nils Havneby', 'Daglig leder', 'nils', '+4740612345'],
    title: 'Havnebud, 12 bikes',
    stage: 'Heard out',
    days: 31,
    amount: 52_000,
    owner: 'Pell Garrick',
    said: [
      ['mail', 'ours', 36, 'Delivery times', 'Eight weeks for twelve.'],
      ['mail', 'theirs', 31, 'Still want twelve', 'Asks whether delivery can be in two lots.'],
    ],
  },
  {
    company: 'City of Wattle Bay',
    domain: 'wattlebay.example',
    person: ['Priya Raman', 'Fleet Coordinator', 'priya.raman', '+61491570006'],
    title: 'City of Wattle Bay',
    stage: 'Tried out',
    days: 5,
    amount: 61_000,
    owner: 'Mara Quill',
    said: [
      ['meeting', 'ours', 9, 'Trial week ended', 'Rangers liked the long bike, the trailer less.'],
      ['mail', 'ours', 5, 'What the trial showed', 'Sent the log of the trial and the price of ten.'],
    ],
    next: ['Ask for the committee date', 'mail', 1],
  },
  {
    company: 'Liffey Linen',
    domain: 'liffeylinen.example',
    person: ['Aoife Nolan', 'Operations Manager', 'aoife.nolan', '+353209100123'],
    title: 'Liffey Linen, trailer',
    stage: 'Tried out',
    days: 16,
    amount: 9_500,
    owner: 'Pell Garrick',
    said: [['mail', 'theirs', 17, 'The trailer', 'It carries the load. Asks about a hire plan.']],
    next: ['Work out a hire plan', 'task', -2],
  },
  {
    company: 'Greenbasket',
    domain: 'greenbasket.example',
    person: ['Tomasz Zieliński', 'Owner', 'hello', '+447700900321'],
    title: 'Greenbasket, fleet',
    stage: 'Proposal',
    days: 22,
    amount: 72_000,
    owner: 'Ines Tolland',
    said: [
      ['mail', 'theirs', 30, 'Replacing our vans', 'Nine vans in all.'],
      ['mail', 'ours', 22, 'Our proposal', 'Sixteen bikes in two lots, with a service plan.'],
      ['note', 'within', 20, 'His bank decides on the second lot.', ''],
    ],
    next: ['Ask what the bank said', 'call', -1],
  },
  {
    company: 'Rennie & Sons Joinery',
    domain: 'rennie-joinery.example',
    person: ['Hamish Rennie', 'Workshop Manager', 'hamish', '+441314960199'],
    title: 'Rennie, 2 trailers',
    stage: 'Proposal',
    days: 4,
    amount: 7_800,
    owner: 'Pell Garrick',
    said: [['mail', 'ours', 4, 'Two trailers', 'Sent the offer with the coupling.']],
    next: ['Call about the coupling', 'call', 0],
  },
  {
    company: 'Harrow Street Catering',
    domain: 'harrowstreet.example',
    person: ['Dana Whitlock', 'Procurement Specialist', 'dwhitlock', '+12125550142'],
    title: 'Harrow Street, 6 bikes',
    stage: 'Terms',
    days: 2,
    amount: 33_000,
    owner: 'Pell Garrick',
    said: [
      ['call', 'ours', 6, 'Called her, 11 minutes', 'Wants payment in two parts.'],
      ['mail', 'ours', 2, 'Terms for six bikes', 'Half on order, half on delivery.'],
    ],
    next: ['Chase the signature', 'mail', 3],
  },
  {
    company: 'Norrsken Florists',
    domain: 'norrskenflorists.example',
    person: ['Sofia Lindqvist', 'Inköpschef', 'sofia', '+46701740605'],
    title: 'Norrsken Florists',
    stage: 'Signed',
    days: 0,
    amount: 14_000,
    owner: 'Ines Tolland',
    said: [['mail', 'theirs', 0, 'Signed', 'The contract is on its way back.']],
  },
  {
    company: 'Pão & Sal',
    domain: 'paoesal.example',
    person: ['Rui Figueira', 'Gerente', 'rui', '+351910555114'],
    title: 'Pão & Sal',
    stage: 'Signed',
    days: 0,
    amount: 10_000,
    owner: 'Ines Tolland',
    said: [['call', 'ours', 0, 'Called him, 4 minutes', 'He signs for two bikes.']],
  },
];

async function loadDeal(context: Context, deal: DemoDeal): Promise<void> {
  const { actor } = context;
  const owner = actor?.id ?? '';
  const now = DateTime.fromJSDate(context.now());
  const company = await findOrMakeCompany(context, deal.company, deal.domain);
  const [fullName, jobTitle, local, phone] = deal.person;
  const { normalized } = normalizeValue('phone', phone, [context.house.country]);
  const { id: personId } = await addPerson(context, {
    fullName,
    jobTitle,
    email: `${local}@${deal.domain}`,
    phone: normalized,
    companyId: company.id,
  });
  const person = await Person.findByPk(personId, { transaction: context.tx });
  if (person)
    await context.write.update(person, { standing: deal.stage === 'Signed' ? 'customer' : 'prospect' });
  const stage = await Stage.findOne({ where: { name: deal.stage }, transaction: context.tx });
  if (!stage) return;
  const at = (days: number): Date => now.minus({ days }).toJSDate();
  const spoken = (days: number): Date =>
    officeTime(now.minus({ days, minutes: (deal.amount / 100 + days * 7) % 47 })).toJSDate();
  const made = await context.write.insert(Deal, {
    id: context.newId(),
    title: deal.title,
    companyId: company.id,
    leadId: null,
    stageId: stage.id,
    stageSince: at(deal.days),
    amountMinor: deal.amount * 100,
    currency: 'EUR',
    probability: stage.probability,
    expectedClose: now.plus({ days: 40 - deal.days }).toISODate(),
    ownerId: owner,
    tags: deal.amount >= 30_000 ? ['fleet'] : [],
    closedAt: stage.kind === 'open' ? null : at(deal.days),
    closeReason: stage.kind === 'won' ? 'the product' : null,
    createdAt: at(deal.days + 8),
    updatedAt: at(deal.days),
  });
  await context.write.insert(DealRoleRow, {
    id: context.newId(),
    dealId: made.id,
    personId,
    role: 'decides',
  });
  const before = (
    await Stage.findAll({
      where: { kind: 'open', pipelineId: stage.pipelineId },
      order: ['position'],
      transaction: context.tx,
    })
  ).filter((one) => one.position < stage.position);
  await keepPast(
    context,
    made,
    before,
    now.minus({ days: deal.days + 7 * before.length }),
    now.plus({ days: 40 - deal.days }),
  );
  const all = { personId, companyId: company.id, leadId: null, dealId: made.id };
  for (const [kind, side, days, headline, body] of deal.said) {
    await enter(
      context,
      {
        at: spoken(days),
        side,
        kind,
        headline,
        body,
        actorId: side === 'theirs' ? null : owner,
        createdAt: spoken(days),
      },
      all,
    );
  }
  if (deal.next) {
    const [title, kind, days] = deal.next;
    await context.write.insert(Task, {
      id: context.newId(),
      title,
      kind,
      dueAt: workday(now.setZone(actor?.timeZone ?? 'utc').startOf('day'), days).toJSDate(),
      allDay: true,
      zone: actor?.timeZone ?? 'UTC',
      assigneeId: owner,
      personId,
      companyId: company.id,
      leadId: null,
      dealId: made.id,
      createdBy: owner,
      createdAt: context.now(),
    });
  }
  await context.write.event('load demo', `Set up ${deal.title}`, owner);
}

/** Ten made-up deals in every stage, with what was said and what comes next. */
export async function loadDeals(tools: Tools, actors: ReadonlyMap<string, Actor>): Promise<void> {
  for (const deal of DEALS)
    await runInTransaction(tools, actors.get(deal.owner) ?? null, (context) => loadDeal(context, deal));
}
