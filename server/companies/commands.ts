import type { CompanyKind } from '@emporikon/core/lifecycle/terms';
import { lockNames } from '../commands/locks';
import { companyKey } from '@emporikon/core/people/companies';
import { readPhone } from '@emporikon/core/people/phones';
import { Op } from 'sequelize';
import type { Context } from '../commands/context';
import { requireTerm } from '../commands/terms';
import { Company } from '../db/models/people';
import { conflict, invalid, notFound } from '../http/problems';
import { claimByHand } from '../people/claims';

/** Takes the locks under which a company can be looked up and made without being doubled. */
export async function lockKeys(context: Context, name: string, domain: string | null): Promise<void> {
  await lockNames(context, [`company:${companyKey(name)}`, ...(domain ? [`domain:${domain}`] : [])]);
}

/**
 * The company of a registrable domain; else the one of that normalised name that has no other domain; else a new one.
 * A company found by name learns the domain.
 */
export async function findOrMakeCompany(
  context: Context,
  name: string,
  domain: string | null,
): Promise<Company> {
  await lockKeys(context, name, domain);
  if (domain) {
    const byDomain = await Company.findOne({ where: { domain }, transaction: context.tx, lock: true });
    if (byDomain) return byDomain;
  }
  const byName = await Company.findOne({
    where: { nameKey: companyKey(name), ...(domain ? { domain: { [Op.is]: null } } : {}) },
    order: ['createdAt'],
    transaction: context.tx,
    lock: true,
  });
  if (byName) return domain ? context.write.update(byName, { domain, updatedAt: context.now() }) : byName;
  const now = context.now();
  return context.write.insert(Company, {
    id: context.newId(),
    name,
    nameKey: companyKey(name),
    domain,
    url: null,
    phone: null,
    address: null,
    ownerId: context.actor?.id ?? null,
    createdAt: now,
    updatedAt: now,
  });
}

/** How a company holds a kind that was chosen. @throws 422 for none that is offered */
async function kindOf(
  context: Context,
  key: string,
  now?: string,
): Promise<{ kind: CompanyKind; kindTerm: string | null }> {
  const { countsAs, own } = await requireTerm(context, 'companyKind', key, {
    field: 'kind',
    ...(now === undefined ? {} : { now }),
  });
  return { kind: countsAs as CompanyKind, kindTerm: own };
}

export async function addCompany(
  context: Context,
  name: string,
  domain: string | null,
  kind = 'firm',
): Promise<{ id: string; eventId: string | null }> {
  await lockKeys(context, name, domain);
  if (domain && (await Company.findOne({ where: { domain }, transaction: context.tx })))
    throw conflict(`There is a company with the domain ${domain} already.`);
  const now = context.now();
  const company = await context.write.insert(Company, {
    id: context.newId(),
    name,
    nameKey: companyKey(name),
    domain,
    url: null,
    phone: null,
    address: null,
    ownerId: context.actor?.id ?? null,
    ...(await kindOf(context, kind)),
    createdAt: now,
    updatedAt: now,
  });
  await claimByHand(context, { companyId: company.id }, 'companyName', name);
  return {
    id: company.id,
    eventId: await context.write.event('add company', `Added ${name}`, context.actor?.id ?? null),
  };
}

/** A company for change. @throws 404 */
export async function loadCompany(context: Context, id: string, lock = false): Promise<Company> {
  const company = await Company.findByPk(id, { transaction: context.tx, lock });
  if (!company) throw notFound('There is no such company.');
  return company;
}

export interface CompanyPatch {
  because?: string;
  version: number;
  name?: string;
  domain?: string | null;
  url?: string | null;
  phone?: string | null;
  address?: string | null;
  ownerId?: string | null;
  /** The key of a term. */
  kind?: string;
  /** The company it is a branch of. */
  parentId?: string | null;
  legalName?: string | null;
  industry?: string | null;
  employees?: number | null;
  technologies?: string[];
  country?: string | null;
  timeZone?: string | null;
  rhythmDays?: number | null;
  isImportant?: boolean;
}

const CLAIMED = [
  'domain',
  'legalName',
  'industry',
  'employees',
  'technologies',
  'country',
  'timeZone',
] as const;

/** A company cannot be a branch of itself, nor of one of its branches. @throws 422 */
export async function checkParent(context: Context, id: string, parentId: string): Promise<void> {
  let at: string | null = parentId;
  for (let steps = 0; at && steps < 20; steps++) {
    if (at === id)
      throw invalid('A company cannot be a branch of itself or of its own branch.', {
        fields: { parentId: 'is the company itself or one of its branches' },
      });
    const above: Company | null = await Company.findByPk(at, { transaction: context.tx });
    if (!above) throw invalid('There is no such company.', { fields: { parentId: 'does not exist' } });
    at = above.parentId ?? null;
  }
}

export async function changeCompany(
  context: Context,
  id: string,
  { version, because, kind, ...patch }: CompanyPatch,
): Promise<{ version: number; eventId: string | null }> {
  context.write.because(because);
  const company = await loadCompany(context, id, true);
  const phone = patch.phone
    ? readPhone(patch.phone, [company.country ?? context.house.country])?.normalized
    : patch.phone;
  if (patch.phone && !phone)
    throw invalid('That is not a phone number; begin with + and the country code.', {
      fields: { phone: 'is not a phone number' },
    });
  if (patch.parentId) await checkParent(context, id, patch.parentId);
  await context.write.update(
    company,
    {
      ...patch,
      ...(kind === undefined ? {} : await kindOf(context, kind, company.kindTerm ?? company.kind)),
      ...(patch.phone === undefined ? {} : { phone: phone ?? null }),
      ...(patch.name ? { nameKey: companyKey(patch.name) } : {}),
      updatedAt: context.now(),
    },
    version,
  );
  if (patch.name) await claimByHand(context, { companyId: id }, 'companyName', patch.name);
  if (patch.address) await claimByHand(context, { companyId: id }, 'address', patch.address);
  if (patch.url) await claimByHand(context, { companyId: id }, 'url', patch.url);
  for (const field of CLAIMED) {
    const value = patch[field];
    const words = Array.isArray(value) ? value.join(', ') : value;
    if (words !== undefined && words !== null && words !== '')
      await claimByHand(context, { companyId: id }, field, String(words));
  }
  return {
    version: company.version,
    eventId: await context.write.event(
      'change company',
      `Changed ${company.name}`,
      context.actor?.id ?? null,
    ),
  };
}
