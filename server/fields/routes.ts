import { CLAIM_FIELDS } from '@emporikon/core/reading/types';
import { fold } from '@emporikon/core/people/text';
import { QueryTypes } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { CustomField, FieldMapping, List } from '../db/models/fields';
import { cappedCount } from '../db/counting';
import type { Handlers } from '../http/mount';
import { conflict, invalid, notFound } from '../http/problems';
import { checkDefinition, type Draft } from './definitions';
import { loadMappings, requireKnownField, targetOf } from './mapping';
import { changeFields, showFields } from './records';
import { maySee } from './rights';

const draftOf = (row: CustomField): Draft => ({
  record: row.record ?? 'person',
  label: row.label,
  kind: row.kind,
  options: row.options,
  isPersonal: row.isPersonal ?? false,
  tab: row.tab ?? '',
  part: row.part ?? '',
  help: row.help ?? '',
  isAsked: row.isAsked ?? false,
  preset: row.preset ?? '',
  isUnique: row.isUnique ?? false,
  onlyFor: row.onlyFor ?? [],
  formula: row.formula ?? '',
  seenBy: row.seenBy ?? 'everybody',
  changedBy: row.changedBy ?? 'everybody',
});
const asField = (row: CustomField) => ({
  ...draftOf(row),
  id: row.id,
  version: row.version,
  key: row.key,
  active: row.active ?? true,
});

async function freeKey(context: Context, label: string): Promise<string> {
  const base =
    fold(label)
      .replace(/[^a-z0-9]+/g, '_')
      .slice(0, 36)
      .replace(/^_+|_+$/g, '') || 'field';
  for (let count = 1; ; count++) {
    const key = count === 1 ? base : `${base}_${count}`;
    if (!(await CustomField.findOne({ where: { key }, transaction: context.tx }))) return key;
  }
}

/** Puts a field at a place among those of its kind of record; the others keep their order. */
async function moveTo(context: Context, field: CustomField, place: number): Promise<void> {
  const rows = await CustomField.findAll({
    where: { record: field.record ?? 'person' },
    order: ['position', 'id'],
    transaction: context.tx,
    lock: true,
  });
  const ordered = rows.filter(({ id }) => id !== field.id);
  ordered.splice(place - 1, 0, rows.find(({ id }) => id === field.id) ?? field);
  for (const [index, row] of ordered.entries())
    if (row.position !== index + 1) await context.write.update(row, { position: index + 1 });
}

export const fieldHandlers: Handlers = {
  'GET /api/fields': async ({ query, context }) => {
    const rows = await CustomField.findAll({
      where: query.record ? { record: query.record } : {},
      order: ['record', 'position', 'id'],
      transaction: context.tx,
    });
    return { items: rows.filter((row) => maySee(context, row)).map(asField) };
  },
  'GET /api/records/:record/:id/fields': ({ params, context }) =>
    showFields(context, params.record, params.id),
  'PATCH /api/records/:record/:id/fields': ({ params, body, context }) =>
    changeFields(context, params.record, params.id, body),
  'POST /api/fields': async ({ body, context }) => {
    const position = (await CustomField.count({ transaction: context.tx })) + 1;
    const field = await context.write.insert(CustomField, {
      ...(await checkDefinition(context, body)),
      id: context.newId(),
      key: await freeKey(context, body.label),
      position,
      active: true,
    });
    const eventId = await context.write.event(
      'add field',
      `Added the field ${body.label}`,
      requireActor(context).id,
    );
    return { eventId, field: asField(field) };
  },
  'PATCH /api/fields/:id': async ({ params, body, context }) => {
    const field = await CustomField.findByPk(params.id, { transaction: context.tx, lock: true });
    if (!field || !maySee(context, field)) throw notFound('There is no such field.');
    const { version, place, active, ...patch } = body;
    const checked = await checkDefinition(context, { ...draftOf(field), ...patch }, field.id);
    await context.write.update(field, { ...checked, ...(active === undefined ? {} : { active }) }, version);
    if (place !== undefined) await moveTo(context, field, place);
    return {
      eventId: await context.write.event('change field', `Changed ${field.label}`, requireActor(context).id),
    };
  },
  'GET /api/field-mappings': async ({ context }) => {
    const mappings = await loadMappings(context);
    return { items: CLAIM_FIELDS.map((field) => ({ field, target: targetOf(mappings, field) })) };
  },
  'PUT /api/field-mappings': async ({ body, context }) => {
    await requireKnownField(context, body.field, 'field');
    await requireKnownField(context, body.target, 'target');
    if (['fullName', 'email', 'companyName'].includes(body.field) && body.target === 'nowhere')
      throw invalid(
        'People are recognised by names, addresses and companies, so each of these needs a field.',
      );
    const known = await FieldMapping.findOne({
      where: { field: body.field },
      transaction: context.tx,
      lock: true,
    });
    if (known) await context.write.update(known, { target: body.target });
    else
      await context.write.insert(FieldMapping, {
        id: context.newId(),
        field: body.field,
        target: body.target,
      });
    return {
      eventId: await context.write.event(
        'map field',
        `Set where ${body.field} goes`,
        requireActor(context).id,
      ),
    };
  },
  'GET /api/lists': async ({ context }) => {
    const options = { type: QueryTypes.SELECT as const, transaction: context.tx };
    const items = await context.sequelize.query<{ id: string; name: string; people: number }>(
      `SELECT l.id, l.name, ${cappedCount('list_members m WHERE m.list_id = l.id')} AS people FROM lists l ORDER BY l.name LIMIT 500`,
      options,
    );
    const tags = await context.sequelize.query<{ tag: string; people: number }>(
      `SELECT tag, sum(records)::int AS people FROM tag_counts WHERE kind = 'p'
        GROUP BY tag HAVING sum(records) > 0 ORDER BY sum(records) DESC, tag LIMIT 300`,
      options,
    );
    return { items, tags };
  },
  'POST /api/lists': async ({ body, context }) => {
    if (await List.findOne({ where: { name: body.name }, transaction: context.tx }))
      throw conflict(`There is a list “${body.name}” already.`);
    const list = await context.write.insert(List, {
      id: context.newId(),
      name: body.name,
      createdAt: context.now(),
    });
    const eventId = await context.write.event(
      'add list',
      `Added the list ${body.name}`,
      requireActor(context).id,
    );
    return { eventId, list: { id: list.id, name: list.name } };
  },
};
