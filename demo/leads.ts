import { addressIn, COUNTRIES } from './addresses';
import { runInTransaction, type Actor, type Context, type Tools } from '@emporikon/server/commands/context';
import { findOrMakeCompany } from '@emporikon/server/companies/commands';
import { Deal, Lead, Stage } from '@emporikon/server/db/models/deals';
import { Task } from '@emporikon/server/db/models/tasks';
import { type LedgerKind } from '@emporikon/server/db/models/ledger';
import { Signal } from '@emporikon/server/db/models/qualifying';
import { Person } from '@emporikon/server/db/models/people';
import { enter } from '@emporikon/server/ledger/write';
import { addJob } from '@emporikon/server/jobs/job';
import { trainJob } from '@emporikon/server/qualifying/jobs';
import { addPerson } from '@emporikon/server/people/commands';
import { DateTime } from 'luxon';
import { officeTime, workday } from './clock';
import { keepPast } from './past';

const GIVEN = [
  'Abel',
  'Bridget',
  'Caspar',
  'Delphine',
  'Ewan',
  'Frida',
  'Gideon',
  'Hanne',
  'Ivo',
  'Jorunn',
  'Kit',
  'Leonor',
];
const FAMILY = [
  'Ackerby',
  'Brandvold',
  'Cottesmore',
  'Dunnage',
  'Eskdale',
  'Fennimore',
  'Garroway',
  'Hexley',
  'Islebury',
  'Jessamy',
  'Kettleby',
  'Lorrimer',
  'Mossgrave',
  'Netherby',
  'Oxenholt',
  'Penrudd',
  'Quillfeather',
  'Rosthwaite',
  'Stannard',
  'Thurlow',
  'Ullesby',
  'Varndell',
  'Wexcombe',
  'Yarrowby',
  'Zellwood',
  'Ambergate',
  'Birkholm',
  'Crosthwick',
  'Dovecote',
  'Elmsworth',
];
const TRADES = [
  { industry: 'Bakeries', word: 'Bakery', likes: 1.4 },
  { industry: 'Couriers', word: 'Couriers', likes: 1 },
  { industry: 'Florists', word: 'Flowers', likes: 0.6 },
  { industry: 'Catering', word: 'Catering', likes: 0.2 },
  { industry: 'Shipping', word: 'Freight', likes: -1.6 },
  { industry: 'Grocers', word: 'Grocers', likes: -0.6 },
] as const;
const SOURCES = ['email', 'form', 'call', 'fair'] as const;
const DROPS = ['too far', 'too small', 'no answer', 'bought elsewhere', 'no budget this year'] as const;
const OWNERS = ['Pell Garrick', 'Ines Tolland', 'Mara Quill'] as const;

/** Numbers that are the same each time (Park & Miller's generator, CACM 1988). */
function seeded(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647;
}

interface Made {
  lead: Lead;
  person: Person;
  companyId: string;
  tradeLikes: number;
  employees: number;
}

async function makeLead(
  context: Context,
  at: number,
  random: () => number,
  came: DateTime,
  owner: string,
): Promise<Made> {
  const trade = TRADES[Math.floor(random() * TRADES.length)] ?? TRADES[0];
  const family = FAMILY[at % FAMILY.length] ?? 'Ackerby';
  const given = GIVEN[(at * 5 + Math.floor(at / FAMILY.length)) % GIVEN.length] ?? 'Abel';
  const place = ['North', 'Quay', 'Market', 'Mill'][Math.floor(at / FAMILY.length)] ?? 'Old';
  const name = `${place} ${family} ${trade.word}`;
  const domain = `${place}${family}${trade.word}.example`.toLowerCase();
  const company = await findOrMakeCompany(context, name, domain);
  const employees = [3, 8, 14, 30, 80, 260][Math.floor(random() * 6)] ?? 8;
  const country = COUNTRIES[Math.floor(random() * COUNTRIES.length)] ?? 'GB';
  await context.write.update(company, {
    industry: trade.industry,
    employees,
    country,
    address: addressIn(country, at),
  });
  const { id } = await addPerson(context, {
    fullName: `${given} ${family}`,
    jobTitle: ['Owner', 'Head of Operations', 'Buyer', 'Assistant'][Math.floor(random() * 4)] ?? 'Owner',
    email: `${given}.${family}@${domain}`.toLowerCase(),
    companyId: company.id,
  });
  const person = await Person.findByPk(id, { transaction: context.tx, rejectOnEmpty: true });
  await context.write.update(person, { standing: 'prospect' });
  const count = 2 + Math.floor(random() * 9);
  const lead = await context.write.insert(Lead, {
    id: context.newId(),
    title: `${name}, ${count} bikes`,
    personId: id,
    companyId: company.id,
    status: 'new',
    statusSince: came.toJSDate(),
    source: SOURCES[Math.floor(random() * SOURCES.length)] ?? 'email',
    ownerId: owner,
    createdAt: came.toJSDate(),
    updatedAt: came.toJSDate(),
  });
  return { lead, person, companyId: company.id, tradeLikes: trade.likes, employees };
}

async function say(
  context: Context,
  made: Made,
  [kind, side, at, headline, said]: [LedgerKind, 'theirs' | 'ours', DateTime, string, string],
  settles = false,
): Promise<void> {
  const time = officeTime(at).toJSDate();
  await enter(
    context,
    {
      at: time,
      side,
      kind,
      headline,
      said,
      settles,
      actorId: side === 'theirs' ? null : made.lead.ownerId,
      createdAt: time,
    },
    { personId: made.person.id, companyId: made.companyId, leadId: made.lead.id },
  );
}

const CLOSED = 84;
const A_YEAR = 330;

/** A lead that came to an end within the last year: our kind of firm, and those who kept writing, bought more often. */
async function closedLead(
  context: Context,
  at: number,
  random: () => number,
  stages: readonly Stage[],
  owner: string,
): Promise<void> {
  const now = DateTime.fromJSDate(context.now());
  const came = now.minus({ days: A_YEAR - Math.floor((at / CLOSED) * (A_YEAR - 80)) });
  const made = await makeLead(context, at, random, came, owner);
  const letters = Math.floor(random() * 4);
  await say(context, made, [
    'mail',
    'theirs',
    came,
    'Asks about bikes',
    random() < 0.4 ? 'Could you send us a quote?' : '',
  ]);
  const slow = Math.floor(random() * 4);
  await say(context, made, ['mail', 'ours', came.plus({ days: slow }), 'Our answer', '']);
  for (let letter = 1; letter <= letters; letter++)
    // Whatever came of it, the last letter left nothing to answer.
    await say(
      context,
      made,
      ['mail', 'theirs', came.plus({ days: slow + letter * 3 }), 'Wrote again', ''],
      letter === letters,
    );
  const liking = made.tradeLikes + letters * 0.7 - slow * 0.3 - (made.employees > 200 ? 1 : 0) - 1.1;
  const isWon = random() < 1 / (1 + Math.exp(-liking));
  const ended = officeTime(
    came.plus({ days: slow + letters * 3 + 5 + Math.floor(random() * 12) }),
  ).toJSDate();
  const stage = stages.find((stage) => stage.kind === (isWon ? 'won' : 'lost'));
  if (!stage) return;
  if (!isWon && random() < 0.35) {
    const dropReason = DROPS[Math.floor(random() * DROPS.length)] ?? 'no answer';
    await context.write.update(made.lead, { status: 'dropped', statusSince: ended, dropReason });
    return;
  }
  const amountMinor = (6 + Math.floor(random() * 30)) * 100_000;
  const closed = officeTime(came.plus({ days: 24 + Math.floor(random() * 50) })).toJSDate();
  const deal = await context.write.insert(Deal, {
    id: context.newId(),
    title: made.lead.title,
    companyId: made.companyId,
    leadId: made.lead.id,
    stageId: stage.id,
    stageSince: closed,
    amountMinor,
    currency: 'EUR',
    probability: stage.probability,
    expectedClose: DateTime.fromJSDate(closed).toISODate(),
    ownerId: made.lead.ownerId,
    closedAt: closed,
    closeReason: isWon
      ? (['the product', 'price', 'they know us', 'how fast we deliver'][at % 4] ?? null)
      : (['bought elsewhere', 'price', 'no budget'][at % 3] ?? null),
    createdAt: came.toJSDate(),
    updatedAt: closed,
  });
  await context.write.update(made.lead, { status: 'converted', statusSince: ended, dealId: deal.id });
  // How far it came, and when it was expected meanwhile: about two weeks off, either way.
  const open = stages.filter((stage) => stage.kind === 'open');
  const reached = isWon ? open.length : 1 + Math.floor(random() * open.length);
  const expected = DateTime.fromJSDate(closed).plus({ days: Math.floor((random() - 0.5) * 28) });
  await keepPast(context, deal, open.slice(0, reached), came.plus({ days: 1 }), expected);
  if (isWon) await context.write.update(made.person, { standing: 'customer' });
}

const OPEN = 12;

/** A lead of the last weeks, at some point of being qualified. */
async function openLead(context: Context, at: number, random: () => number, owner: string): Promise<void> {
  const now = DateTime.fromJSDate(context.now());
  const came = now.minus({ days: 2 + at * 2 });
  const made = await makeLead(context, CLOSED + at, random, came, owner);
  await say(context, made, [
    'mail',
    'theirs',
    came,
    'Asks about bikes',
    at % 3 === 0 ? 'Could you send us a quote?' : '',
  ]);
  if (at % 2) await say(context, made, ['call', 'ours', came.plus({ days: 1 }), 'Called, 7 minutes', '']);
  if (at % 3 === 1)
    await context.write.insert(Signal, {
      id: context.newId(),
      personId: made.person.id,
      kind: 'visited',
      at: now.minus({ days: 1 }).toJSDate(),
      words: 'the page of long bikes',
      createdAt: context.now(),
    });
  if (at % 4 !== 2)
    await context.write.insert(Task, {
      id: context.newId(),
      title:
        ['Call about the price', 'Send the sheet of the long bike', 'Ask for a day to try one'][at % 3] ??
        'Call',
      kind: (['call', 'mail', 'call'] as const)[at % 3] ?? 'call',
      dueAt: workday(now.setZone('Europe/London').startOf('day'), 2 + (at % 6)).toJSDate(),
      allDay: true,
      zone: 'Europe/London',
      assigneeId: owner,
      personId: made.person.id,
      companyId: made.companyId,
      leadId: made.lead.id,
      dealId: null,
      createdBy: owner,
      createdAt: context.now(),
    });
  const status = (['new', 'working', 'qualified'] as const)[at % 3] ?? 'new';
  await context.write.update(made.lead, { status });
  if (at === OPEN - 1)
    await context.write.update(made.lead, {
      status: 'parked',
      parkedFrom: 'working',
      parkedUntil: now.plus({ weeks: 6 }).toISODate(),
    });
}

const AT_ONCE = 12;

/** A year of leads that were won and lost, from which the win chance is learnt, and those that are open now. */
export async function loadLeads(tools: Tools, actors: ReadonlyMap<string, Actor>): Promise<void> {
  const random = seeded(46_013);
  const turns = [
    ...Array.from({ length: CLOSED }, (_, at) => ({ at, isClosed: true })),
    ...Array.from({ length: OPEN }, (_, at) => ({ at, isClosed: false })),
  ];
  for (let from = 0; from < turns.length; from += AT_ONCE) {
    const actor = actors.get(OWNERS[(from / AT_ONCE) % OWNERS.length] ?? 'Pell Garrick') ?? null;
    await runInTransaction(tools, actor, async (context) => {
      const stages = await Stage.findAll({ order: ['position'], transaction: context.tx });
      for (const { at, isClosed } of turns.slice(from, from + AT_ONCE)) {
        const owner = actors.get(OWNERS[at % OWNERS.length] ?? 'Pell Garrick')?.id ?? '';
        if (isClosed) await closedLead(context, at, random, stages, owner);
        else await openLead(context, at, random, owner);
      }
      await context.write.event('load demo', 'Set up leads', actor?.id ?? null);
    });
  }
  await runInTransaction(tools, null, (context) => addJob(context, trainJob, {}, 'train'));
}
