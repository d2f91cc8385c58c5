import type { In, Reply } from '@emporikon/contract';
import { fairness, ownerBy, type OwnerRule } from '@emporikon/core/lifecycle/owners';
import type { FitFacts } from '@emporikon/core/qualifying/fit';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { OwnerRuleRow } from '../db/models/qualifying';
import { Company, type Person } from '../db/models/people';
import { User } from '../db/models/users';
import { invalid, stale } from '../http/problems';

const load = (context: Context, lock = false): Promise<OwnerRuleRow[]> =>
  OwnerRuleRow.findAll({ order: ['position'], transaction: context.tx, lock });

const asRule = (row: OwnerRuleRow): OwnerRule => ({
  id: row.id,
  when: row.field && row.condition ? { field: row.field, condition: row.condition, value: row.value } : null,
  owners: row.owners,
});

/**
 * Who is given a new lead by the house's rules. The rules are locked meanwhile, so that two leads at once go to two in
 * turn. @returns null where no rule says
 */
export async function giveByRule(
  context: Context,
  person: Person,
  given: { companyId: string | null; source: string },
): Promise<{ ownerId: string; givenBy: string } | null> {
  const rules = await load(context, true);
  if (!rules.length) return null;
  const companyId = given.companyId ?? person.companyId;
  const company = companyId ? await Company.findByPk(companyId, { transaction: context.tx }) : null;
  const facts: FitFacts = {
    industry: company?.industry ?? null,
    employees: company?.employees ?? null,
    country: company?.country ?? null,
    technologies: company?.technologies ?? null,
    jobTitle: person.jobTitle,
    standing: person.standing,
    tags: person.tags ?? null,
    source: given.source,
    timeZone: person.timeZone,
    quantity: null,
    amount: null,
  };
  const users = await User.findAll({ where: { active: true }, transaction: context.tx });
  const last = await context.sequelize.query<{ id: string; at: Date }>(
    'SELECT owner_id AS id, max(created_at) AS at FROM leads WHERE given_by IS NOT NULL GROUP BY owner_id',
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
  const found = ownerBy(
    rules.map(asRule),
    facts,
    new Set(users.map((user) => user.id)),
    new Map(last.map((one) => [one.id, one.at.toISOString()])),
  );
  return found && { ownerId: found.ownerId, givenBy: found.ruleId };
}

export async function listOwnerRules(context: Context): Promise<Reply<'GET /api/owner-rules'>['items']> {
  const names = new Map(
    (await User.findAll({ transaction: context.tx })).map((user) => [user.id, user.name]),
  );
  return (await load(context)).map((row) => ({
    id: row.id,
    version: row.version,
    field: row.field,
    condition: row.condition,
    value: row.value,
    owners: row.owners.map((id) => ({ id, name: names.get(id) ?? '' })),
  }));
}

type Draft = In<'PUT /api/owner-rules', 'body'>;

/** Replaces the rules of who is given new leads. @throws 409 when they changed since they were read, 422 for somebody who is not there */
export async function setOwnerRules(
  context: Context,
  rules: readonly { when: OwnerRule['when']; owners: string[] }[],
  seen: Draft['seen'],
): Promise<string | null> {
  const known = await load(context, true);
  const keyOf = (one: { id: string; version: number }): string => `${one.id}/${one.version}`;
  if (known.map(keyOf).sort().join() !== seen.map(keyOf).sort().join())
    throw stale({ rules: known.map((one) => one.get({ plain: true })) });
  const wanted = [...new Set(rules.flatMap((rule) => rule.owners))];
  const there = await User.count({ where: { id: wanted, active: true }, transaction: context.tx });
  if (there !== wanted.length)
    throw invalid('There is no such colleague.', { fields: { owners: 'does not exist' } });
  for (const row of known.slice(rules.length)) await context.write.remove(row);
  for (const [position, { when, owners }] of rules.entries()) {
    const values = {
      position,
      owners,
      field: when?.field ?? null,
      condition: when?.condition ?? null,
      value: when?.value ?? '',
    };
    const row = known[position];
    if (row) await context.write.update(row, values);
    else await context.write.insert(OwnerRuleRow, { id: context.newId(), ...values });
  }
  return context.write.event('set owner rules', 'Changed who gets new leads', requireActor(context).id);
}

const MONTH_MS = 30 * 86_400_000;

/** How many new leads each has since a day, a month back where none is named, and how evenly. */
export async function ownerFigures(
  context: Context,
  since: string | undefined,
): Promise<Reply<'GET /api/figures/owners'>> {
  const from = since ?? new Date(context.now().getTime() - MONTH_MS).toISOString();
  const owners = await context.sequelize.query<{ id: string; name: string; leads: number; byRule: number }>(
    `SELECT u.id, u.name, count(l.id)::int AS leads, count(l.given_by)::int AS "byRule"
       FROM users u LEFT JOIN leads l ON l.owner_id = u.id AND l.created_at >= :from::timestamptz
      WHERE u.active AND (u.role = 'rep' OR l.id IS NOT NULL) GROUP BY u.id, u.name ORDER BY leads DESC, u.name`,
    { replacements: { from }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return { owners, fairness: fairness(owners.map((owner) => owner.leads)) };
}
