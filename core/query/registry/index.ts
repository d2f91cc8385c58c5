import type { Field, Option, RecordKind, Registry } from '../types';
import { company, person } from './people';
import { deal, lead, task } from './sales';
import { capture, caseKind, entry, project } from './work';

/** Everything that can be asked of records, without what an organisation adds. */
export const REGISTRY: Registry = {
  person,
  company,
  lead,
  deal,
  task,
  project,
  case: caseKind,
  entry,
  capture,
};

export interface Additions {
  /** Fields of its own, by the kind of record. */
  fields?: Partial<Record<RecordKind, readonly Field[]>>;
  /** Values of choices that are settings: stages, pipelines, users. By `kind.field`. */
  options?: Readonly<Record<string, readonly Option[]>>;
}

/** The registry of one organisation: with its own fields and the values of its settings. */
export function registryWith({ fields = {}, options = {} }: Additions): Registry {
  const entries = Object.values(REGISTRY).map((spec) => {
    const all = [...spec.fields.values(), ...(fields[spec.kind] ?? [])].map((field) => {
      const own = options[`${spec.kind}.${field.key}`] ?? options[`*.${field.type}`];
      return [field.key, own ? { ...field, options: own } : field] as const;
    });
    return [spec.kind, { ...spec, fields: new Map(all) }] as const;
  });
  return Object.fromEntries(entries) as unknown as Registry;
}
