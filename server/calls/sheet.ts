import type { CallSheet } from '@emporikon/contract/calls';
import { companyDomain } from '@emporikon/core/people/emails';
import { standingWithWork } from '@emporikon/core/lifecycle/standing';
import type { z } from 'zod';
import { requireActor, type Context } from '../commands/context';
import { normalizeValue } from '../people/values';
import { enter } from '../ledger/write';
import { addTask } from '../tasks/add';
import { readOwnRecord } from '../captures/arrivals';
import { storeCapture } from '../captures/store';
import { findOrMakeCompany } from '../companies/commands';
import { Call } from '../db/models/calls';
import { ClaimRow } from '../db/models/captures';
import { Deal, DealRoleRow } from '../db/models/deals';
import type { Person } from '../db/models/people';
import { Company } from '../db/models/people';
import { hasLines } from '../deals/lines';
import { convertLead } from '../leads/convert';
import { knownPeople } from '../people/known';
import { makeDeal } from '../deals/make';
import { choiceNeeded, conflict, invalid, notFound } from '../http/problems';
import { applyClaims } from '../people/claims';
import { loadPerson, makePerson } from '../people/commands';
import { addBackground, organise } from '../people/organise';
import { fileWithCall } from './webhook';

type Sheet = z.output<typeof CallSheet>;

export interface SavedSheet {
  eventId: string | null;
  person: { id: string; name: string };
  company: { id: string; name: string } | null;
  deal: { id: string; name: string } | null;
  captureId: string;
}

const FIELDS = ['fullName', 'jobTitle', 'companyName', 'email', 'phone', 'address'] as const;

/** The facts of the sheet as claims of its capture: what the reader read keeps its place, what a hand typed says so. */
async function claimsOf(context: Context, sheet: Sheet, captureId: string): Promise<ClaimRow[]> {
  const read = await ClaimRow.findAll({ where: { captureId }, transaction: context.tx });
  const kept: ClaimRow[] = [];
  for (const field of FIELDS) {
    const value = sheet[field]?.trim();
    if (!value) continue;
    const { normalized, type } = normalizeValue(field, value, [context.house.country]);
    const same = read.find(
      (claim) =>
        claim.field === field && (normalized ? claim.normalized === normalized : claim.value === value),
    );
    kept.push(
      same ??
        (await context.write.insert(ClaimRow, {
          id: context.newId(),
          captureId,
          field,
          value,
          normalized,
          type: field === 'phone' ? (type ?? 'work') : null,
          confidence: 1,
          span: null,
          source: 'written on the call sheet',
          byHand: true,
          actorId: requireActor(context).id,
          fate: 'proposed',
          createdAt: context.now(),
        })),
    );
  }
  for (const claim of read)
    if (!kept.includes(claim)) await context.write.update(claim, { fate: 'rejected' });
  return kept;
}

async function dealOf(
  context: Context,
  sheet: Sheet,
  person: Person,
  company: Company | null,
): Promise<Deal | null> {
  if (!sheet.deal) return null;
  const { id, leadId, title, amountMinor, currency, expectedClose } = sheet.deal;
  if (id) {
    const deal = await Deal.findByPk(id, { transaction: context.tx, lock: true });
    if (!deal) throw invalid('There is no such deal.', { fields: { deal: 'does not exist' } });
    await context.write.update(deal, {
      ...(amountMinor === null || (await hasLines(context, deal.id)) ? {} : { amountMinor, currency }),
      ...(expectedClose ? { expectedClose } : {}),
      updatedAt: context.now(),
    });
    if (!(await DealRoleRow.findOne({ where: { dealId: id, personId: person.id }, transaction: context.tx })))
      await context.write.insert(DealRoleRow, {
        id: context.newId(),
        dealId: id,
        personId: person.id,
        role: 'influences',
      });
    return deal;
  }
  if (leadId) {
    const done = await convertLead(
      context,
      leadId,
      { title, amountMinor, currency, expectedClose: expectedClose ?? null },
      { isPart: true },
    );
    return Deal.findByPk(done.deal.id, { transaction: context.tx });
  }
  if (id === undefined && leadId === undefined) await refuseSecondDeal(context, person);
  await context.write.asConsequence(() =>
    context.write.update(person, {
      standing: standingWithWork(person.standing),
      updatedAt: context.now(),
    }),
  );
  return makeDeal(context, person.id, {
    title,
    companyId: company?.id ?? null,
    leadId: null,
    amountMinor,
    currency,
    expectedClose: expectedClose ?? null,
    ownerId: requireActor(context).id,
  });
}

/** Who has work open already is not given a second deal by the way. @throws 409 naming what is open */
async function refuseSecondDeal(context: Context, person: Person): Promise<void> {
  const [known] = await knownPeople(context, [person.id]);
  const open = [
    ...(known?.deals ?? []).map((deal) => `the deal “${deal.name}”`),
    ...(known?.leads ?? []).map((lead) => `the lead “${lead.name}”`),
  ];
  if (open.length)
    throw choiceNeeded(
      `${person.fullName} has ${open.join(' and ')} open already. Say which of them this is about (deal.id or deal.leadId), or null for a deal of its own.`,
      { reasons: open },
    );
}

async function saveMoves(
  context: Context,
  sheet: Sheet,
  about: { personId: string; companyId: string | null; dealId: string | null },
): Promise<void> {
  for (const move of sheet.moves) await addTask(context, move, about);
}

/**
 * Saves a call sheet: the person found or made, their facts, the background, what was said as a dated entry, the
 * follow-ups and the deal, with the note itself kept as a capture. One transaction, one event, one undo.
 * @throws 422 where a fact cannot be one, 409 when the call was saved before
 */
export async function saveSheet(context: Context, sheet: Sheet): Promise<SavedSheet> {
  const actor = requireActor(context);
  const call = sheet.callId
    ? await Call.findByPk(sheet.callId, { transaction: context.tx, lock: true })
    : null;
  if (sheet.callId && !call) throw notFound('There is no such call.');
  if (call?.savedAt) throw conflict('This call is saved already; add to it on the dossier.');
  if (sheet.person === 'new' && !sheet.fullName?.trim())
    throw invalid('Say who it was: a name is enough.', { fields: { fullName: 'is missing' } });
  const person =
    sheet.person === 'new'
      ? await makePerson(context, sheet.fullName?.trim() ?? '')
      : await loadPerson(context, sheet.person, true);
  const note = sheet.text.trim() || sheet.said || `Call with ${person.fullName}`;
  const at = call?.answeredAt ?? call?.startedAt ?? context.now();
  const direction = call?.direction ?? sheet.direction;
  const { capture } = await storeCapture(
    context,
    await readOwnRecord(context, {
      kind: 'call',
      id: call?.exchangeId ?? context.newId(),
      direction,
      from: call?.fromNumber ?? '',
      to: call?.toNumber ?? '',
      startedAt: at.toISOString(),
      endedAt: call?.endedAt?.toISOString() ?? null,
      text: note,
    }),
    { by: call ? 'exchange' : 'paste', isPart: true },
  );
  const claims = await claimsOf(context, sheet, capture.id);
  const company = sheet.companyName?.trim()
    ? await findOrMakeCompany(context, sheet.companyName.trim(), companyDomain(sheet.email ?? ''))
    : person.companyId
      ? await Company.findByPk(person.companyId, { transaction: context.tx })
      : null;
  await applyClaims(context, person, company, claims);
  if (sheet.background) await addBackground(context, person, sheet.background);
  await organise(context, person, { tags: sheet.tags });
  const deal = await dealOf(context, sheet, person, company);
  const about = { personId: person.id, companyId: company?.id ?? null, dealId: deal?.id ?? null };
  const said = sheet.said || sheet.background || `Call with ${person.fullName}`;
  await enter(
    context,
    {
      at,
      side: direction === 'in' ? 'theirs' : 'ours',
      kind: 'call',
      headline: said.length > 140 ? `${said.slice(0, 139)}…` : said,
      body: said.length > 140 ? said.slice(0, 1000) : '',
      said: said.length > 140 ? said : '',
      captureId: capture.id,
    },
    about,
  );
  await saveMoves(context, sheet, about);
  await context.write.update(capture, { state: 'filed', filedAt: context.now() });
  if (call) {
    await context.write.update(call, {
      savedAt: context.now(),
      personId: person.id,
      captureId: call.captureId ?? capture.id,
    });
  }
  if (call) await fileWithCall(context, call, person.id);
  const eventId = await context.write.event('save call', `Saved the call with ${person.fullName}`, actor.id);
  return {
    eventId,
    person: { id: person.id, name: person.fullName },
    company: company ? { id: company.id, name: company.name } : null,
    deal: deal ? { id: deal.id, name: deal.title } : null,
    captureId: capture.id,
  };
}
