import { companyDomain } from '@emporikon/core/people/emails';
import type { CompanyFiled, CompanyFilingInput } from '@emporikon/contract/filing';
import type { z } from 'zod';
import { requireActor, type Context } from '../commands/context';
import { applyCompanyClaims } from '../people/claims';
import { choiceNeeded, conflict, invalid, notFound } from '../http/problems';
import { requireColleague } from '../commands/colleague';
import { knownCompany } from '../companies/candidates';
import { findOrMakeCompany } from '../companies/commands';
import { Company } from '../db/models/people';
import { enterLedger } from './entry';
import { companyFacts } from './recognise';
import { loadCapture, loadClaims } from './view';

/**
 * Files a company page on its company, found or made, with its facts and an entry in its ledger; nobody is made of it.
 * @throws 409 when it is filed already, 422 when nothing names the company, or when it may be one of several
 */
export async function fileOnCompany(
  context: Context,
  captureId: string,
  input: z.output<typeof CompanyFilingInput>,
): Promise<CompanyFiled> {
  const capture = await loadCapture(context, captureId, true);
  if (capture.state === 'filed') throw conflict('This is filed already.');
  const claims = (await loadClaims(context, captureId)).filter((claim) => claim.fate === 'proposed');
  const read = companyFacts(claims);
  const site = claims.find((claim) => claim.field === 'url')?.normalized ?? '';
  const domain = read?.domain ?? companyDomain(site);
  const name = input.companyName ?? read?.name ?? '';
  const company = await choose(context, input.company, name, domain);
  await applyCompanyClaims(context, company, claims);
  if (input.ownerId)
    await context.write.update(company, {
      ownerId: await requireColleague(context, input.ownerId),
      updatedAt: context.now(),
    });
  await enterLedger(context, capture, { companyId: company.id });
  await context.write.update(capture, { state: 'filed', filedAt: context.now() });
  return {
    eventId: await context.write.event('file capture', `Filed ${company.name}`, requireActor(context).id),
    company: { id: company.id, name: company.name },
  };
}

async function choose(
  context: Context,
  choice: string | undefined,
  name: string,
  domain: string | null,
): Promise<Company> {
  if (choice && choice !== 'new') {
    const company = await Company.findByPk(choice, { transaction: context.tx, lock: true });
    if (!company) throw notFound('There is no such company.');
    return company;
  }
  if (!name)
    throw invalid('Nothing says which company this is. Add its name first.', {
      fields: { companyName: 'is missing' },
    });
  if (!choice) {
    const { kind, matches } = await knownCompany(context, { name, domain });
    if (kind === 'maybe')
      throw choiceNeeded('This may be a company in your records. Choose which, or say that it is new.', {
        reasons: matches.map((match) => `${match.label} (${Math.round(match.probability * 100)}%)`),
      });
  }
  return findOrMakeCompany(context, name, domain);
}
