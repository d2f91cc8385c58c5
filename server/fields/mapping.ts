import type { MappingTarget } from '@emporikon/contract/fields';
import type { Context } from '../commands/context';
import { CustomField, FieldMapping } from '../db/models/fields';

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

export const customFields = (context: Context): Promise<CustomField[]> =>
  CustomField.findAll({ order: ['position'], transaction: context.tx });
