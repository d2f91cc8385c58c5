import type { MappingTarget } from '@emporikon/contract/fields';
import type { Context } from '../commands/context';
import { CustomField, FieldMapping } from '../db/models/fields';
import { invalid } from '../http/problems';

/** Where the claims of each field go; those not named go where they belong by themselves. */
export async function loadMappings(context: Context): Promise<Map<string, MappingTarget>> {
  const rows = await FieldMapping.findAll({ transaction: context.tx });
  return new Map(rows.map((row) => [row.field, row.target as MappingTarget]));
}

/** The field of a person that a claim is written to. */
export function targetOf(mappings: ReadonlyMap<string, MappingTarget>, field: string): MappingTarget {
  if (field.startsWith('custom:')) return field as MappingTarget;
  return mappings.get(field) ?? (field === 'note' ? 'background' : 'own');
}

/**
 * A name such as `custom:delivery_days` must be that of a field there is.
 * @param input the part of the request that carries it
 * @throws 422 that names `input`
 */
export async function requireKnownField(context: Context, name: string, input: string): Promise<void> {
  const key = /^custom:(.*)$/.exec(name)?.[1];
  if (key && !(await CustomField.findOne({ where: { key, record: 'person' }, transaction: context.tx })))
    throw invalid('There is no such field.', { fields: { [input]: 'does not exist' } });
}
