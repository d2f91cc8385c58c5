import type { Reply } from '@emporikon/contract';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { findOrMakeCompany } from '../companies/commands';
import { Company, Person } from '../db/models/people';
import { Employment, Relation, RelationKind } from '../db/models/relations';
import type { Handlers } from '../http/mount';
import { invalid, notFound } from '../http/problems';
import { companyChart } from './chart';
import { employmentsOf } from './employments';

async function loadPersonHere(context: Context, id: string): Promise<Person> {
  const person = await Person.findByPk(id, { transaction: context.tx });
  if (!person) throw notFound('There is no such person.');
  return person;
}

type Relations = Reply<'GET /api/people/:id/relations'>['items'];

const relationsOf = async (context: Context, id: string): Promise<Relations> => {
  const rows = await context.sequelize.query<{
    id: string;
    kind_id: string;
    words: string;
    person_id: string;
    name: string;
    job_title: string | null;
    company: string | null;
  }>(
    `SELECT r.id, r.kind_id, CASE WHEN r.from_id = :id THEN k.name ELSE k.reverse END AS words, p.id AS person_id, p.full_name AS name, p.job_title, c.name AS company
       FROM relations r JOIN relation_kinds k ON k.id = r.kind_id
       JOIN people p ON p.id = CASE WHEN r.from_id = :id THEN r.to_id ELSE r.from_id END LEFT JOIN companies c ON c.id = p.company_id
      WHERE r.from_id = :id OR r.to_id = :id ORDER BY k.position, words, p.full_name LIMIT 500`,
    { replacements: { id }, type: QueryTypes.SELECT, transaction: context.tx },
  );
  return rows.map((row) => ({
    id: row.id,
    kindId: row.kind_id,
    words: row.words,
    person: { id: row.person_id, name: row.name, jobTitle: row.job_title, company: row.company },
  }));
};

async function refuseKindName(context: Context, name: string | undefined, except = ''): Promise<void> {
  const same = name ? await RelationKind.findOne({ where: { name }, transaction: context.tx }) : null;
  if (same && same.id !== except)
    throw invalid('There is a kind of that name.', { fields: { name: 'is taken' } });
}

function refuseBackwards(from: string | null | undefined, until: string | null | undefined): void {
  if (from && until && until < from)
    throw invalid('It ends before it begins.', { fields: { untilDay: 'is before its beginning' } });
}

export const relationHandlers: Handlers = {
  'GET /api/relation-kinds': async ({ context }) => {
    const rows = await RelationKind.findAll({ order: ['position', 'name'], transaction: context.tx });
    return {
      items: rows.map(({ id, version, name, reverse, isLine, active }) => ({
        id,
        version,
        name,
        reverse,
        isLine: isLine ?? false,
        active: active ?? true,
      })),
    };
  },
  'POST /api/relation-kinds': async ({ body, context }) => {
    await refuseKindName(context, body.name);
    const last = (await RelationKind.max<number, RelationKind>('position', { transaction: context.tx })) ?? 0;
    const made = await context.write.insert(RelationKind, {
      id: context.newId(),
      ...body,
      position: last + 1,
      active: true,
    });
    return {
      id: made.id,
      eventId: await context.write.event(
        'add relation kind',
        `Added the relation “${made.name}”`,
        requireActor(context).id,
      ),
    };
  },
  'PATCH /api/relation-kinds/:id': async ({ params, body: { version, ...patch }, context }) => {
    const kind = await RelationKind.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!kind) throw notFound('There is no such kind of relation.');
    await refuseKindName(context, patch.name, kind.id);
    await context.write.update(kind, patch, version);
    return {
      eventId: await context.write.event(
        'change relation kind',
        `Changed the relation “${kind.name}”`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/people/:id/relations': async ({ params, context }) => {
    await loadPersonHere(context, params.id);
    return {
      items: await relationsOf(context, params.id),
      employments: await employmentsOf(context, 'person', params.id),
    };
  },
  'POST /api/people/:id/relations': async ({ params, body, context }) => {
    const person = await loadPersonHere(context, params.id);
    const other = await Person.findByPk(body.personId, { transaction: context.tx });
    const kind = await RelationKind.findByPk(body.kindId, { transaction: context.tx });
    if (!other) throw invalid('There is no such person.', { fields: { personId: 'does not exist' } });
    if (!kind) throw invalid('There is no such relation.', { fields: { kindId: 'does not exist' } });
    if (other.id === person.id)
      throw invalid('Choose somebody else: a person cannot be related to themselves.', {
        fields: { personId: 'is the same person' },
      });
    const [fromId, toId] = body.isReverse ? [other.id, person.id] : [person.id, other.id];
    const ends =
      kind.name === kind.reverse
        ? [
            { fromId, toId },
            { fromId: toId, toId: fromId },
          ]
        : [{ fromId, toId }];
    for (const end of ends) {
      const known = await Relation.findOne({ where: { kindId: kind.id, ...end }, transaction: context.tx });
      if (known) return { id: known.id, eventId: null };
    }
    const made = await context.write.insert(Relation, { id: context.newId(), kindId: kind.id, fromId, toId });
    return {
      id: made.id,
      eventId: await context.write.event(
        'add relation',
        `${person.fullName} ${body.isReverse ? kind.reverse : kind.name} ${other.fullName}`,
        requireActor(context).id,
      ),
    };
  },
  'DELETE /api/relations/:id': async ({ params, context }) => {
    const relation = await Relation.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!relation) throw notFound('There is no such relation.');
    await context.write.remove(relation);
    return {
      eventId: await context.write.event('remove relation', 'Removed a relation', requireActor(context).id),
    };
  },
  'POST /api/people/:id/employments': async ({ params, body, context }) => {
    const person = await loadPersonHere(context, params.id);
    refuseBackwards(body.fromDay, body.untilDay);
    const company = body.companyId
      ? await Company.findByPk(body.companyId, { transaction: context.tx })
      : body.companyName
        ? await findOrMakeCompany(context, body.companyName, null)
        : null;
    if (!company)
      throw invalid('Say which company.', {
        fields: { companyName: body.companyId ? 'does not exist' : 'is missing' },
      });
    const made = await context.write.insert(Employment, {
      id: context.newId(),
      personId: person.id,
      companyId: company.id,
      jobTitle: body.jobTitle,
      fromDay: body.fromDay ?? null,
      untilDay: body.untilDay ?? null,
    });
    return {
      id: made.id,
      eventId: await context.write.event(
        'add employment',
        `${person.fullName} at ${company.name}`,
        requireActor(context).id,
      ),
    };
  },
  'PATCH /api/employments/:id': async ({ params, body: { version, ...patch }, context }) => {
    const row = await Employment.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!row) throw notFound('There is no such entry.');
    const after = { ...row.get({ plain: true }), ...patch };
    refuseBackwards(after.fromDay, after.untilDay);
    await context.write.update(row, patch, version);
    return {
      eventId: await context.write.event(
        'change employment',
        'Changed where somebody works',
        requireActor(context).id,
      ),
    };
  },
  'DELETE /api/employments/:id': async ({ params, context }) => {
    const row = await Employment.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!row) throw notFound('There is no such entry.');
    await context.write.remove(row);
    return {
      eventId: await context.write.event(
        'remove employment',
        'Removed where somebody works',
        requireActor(context).id,
      ),
    };
  },
  'GET /api/companies/:id/chart': async ({ params, context }) => companyChart(context, params.id),
};
