import type { z } from 'zod';
import { allRoutes, type Parsed } from '@emporikon/contract';
import type { OwnRecord } from '@emporikon/core/fields/own';
import { fieldChanges } from '@emporikon/core/ledger/fieldChanges';
import { changeCompany } from '../companies/commands';
import type { Context } from '../commands/context';
import { changeCase } from '../cases/change';
import { Case, Project } from '../db/models/afterDeals';
import { Deal, Lead } from '../db/models/deals';
import { EventRow } from '../db/models/ledger';
import { Company, Person } from '../db/models/people';
import { withTermKeys } from '../commands/terms';
import { changeFields } from '../fields/records';
import { changeDeal } from '../deals/change';
import { cannotUndo, invalid, notFound } from '../http/problems';
import { changeLead } from '../leads/change';
import { changeProject } from '../projects/change';
import { changePerson } from '../people/commands';
import { changeTask, loadTask } from '../tasks/change';
import { NOT_RESTORED, TOLD_FIELDS } from './fields';

interface Restorable {
  /** The version of the record as it is; null where the actor sees none. */
  version: (context: Context, id: string) => Promise<number | null>;
  change: (
    context: Context,
    id: string,
    patch: Record<string, unknown>,
  ) => Promise<{ eventId: string | null }>;
}
const versionOf =
  (find: (id: string, context: Context) => Promise<{ version: number } | null>) =>
  async (context: Context, id: string): Promise<number | null> =>
    (await find(id, context))?.version ?? null;

/** What stood there once may not be allowed any more. @throws 422 */
function checked<Schema extends z.ZodType>(schema: Schema, patch: object): z.output<Schema> {
  const read = schema.safeParse(patch);
  if (read.success) return read.data;
  throw invalid('The value that stood there is not allowed any more, and was not put back.');
}

/** Each kind is changed as a hand would change it, and so by all its rules. */
const RESTORABLE: Readonly<Record<string, Restorable>> = {
  people: {
    version: versionOf((id, { tx }) => Person.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changePerson(context, id, checked(allRoutes['PATCH /api/people/:id'].body, patch)),
  },
  companies: {
    version: versionOf((id, { tx }) => Company.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changeCompany(context, id, checked(allRoutes['PATCH /api/companies/:id'].body, patch)),
  },
  leads: {
    version: versionOf((id, { tx }) => Lead.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changeLead(context, id, checked(allRoutes['PATCH /api/leads/:id'].body, patch)),
  },
  deals: {
    version: versionOf((id, { tx }) => Deal.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changeDeal(context, id, checked(allRoutes['PATCH /api/deals/:id'].body, patch)),
  },
  projects: {
    version: versionOf((id, { tx }) => Project.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changeProject(context, id, checked(allRoutes['PATCH /api/projects/:id'].body, patch)),
  },
  cases: {
    version: versionOf((id, { tx }) => Case.findByPk(id, { transaction: tx })),
    change: (context, id, patch) =>
      changeCase(context, id, checked(allRoutes['PATCH /api/cases/:id'].body, patch)),
  },
  tasks: {
    version: versionOf((id, context) => loadTask(context, id)),
    change: async (context, id, patch) => {
      const { version, ...rest } = checked(allRoutes['PATCH /api/tasks/:id'].body, patch);
      return { eventId: await changeTask(context, await loadTask(context, id), rest, version) };
    },
  },
};

/** Records whose own fields are changed by themselves. */
const OWN_RECORD: Readonly<Record<string, Exclude<OwnRecord, 'person'>>> = {
  companies: 'company',
  leads: 'lead',
  deals: 'deal',
  tasks: 'task',
  projects: 'project',
  cases: 'case',
};
/** Fields that are changed under another name than they are kept. */
const AS_CHANGED: Readonly<Record<string, (value: unknown) => Record<string, unknown>>> = {
  inactiveSince: (value) => ({ active: value === null }),
  endsAt: (value) => ({ endAt: value }),
};
/** What is empty is nothing of its kind: no tags, no words. */
const EMPTY: Readonly<Record<string, unknown>> = { tags: [], technologies: [], notes: '', place: '' };

/**
 * Puts the value of a field back that stood there before a change, whatever was changed since.
 * @throws 404 where there was no such change, 409 where it cannot be put back by itself
 */
export async function restoreValue(
  context: Context,
  { eventId, recordId, field }: Parsed<'POST /api/changes/restore', 'body'>,
): Promise<{ eventId: string | null }> {
  const event = await EventRow.findOne({ where: { id: eventId }, transaction: context.tx });
  const [name = '', ...keys] = field.split('.');
  const key = keys.join('.') || null;
  const line =
    event &&
    fieldChanges(event.changes.map(withTermKeys), TOLD_FIELDS).find(
      (one) => one.id === recordId && one.field === name && one.key === key,
    );
  const kind = line && RESTORABLE[line.table];
  const version = kind ? await kind.version(context, recordId) : null;
  if (!line || line.isMade || !kind || version === null)
    throw notFound('There is no such change of a record that is there.');
  if (NOT_RESTORED.has(`${line.table}.${name}`))
    throw cannotUndo('This cannot be put back by itself. Undo the change, or change it by hand.');
  const own = OWN_RECORD[line.table];
  if (name === 'custom' && key && own)
    return changeFields(context, own, recordId, {
      version,
      values: { [key]: typeof line.from === 'string' ? line.from : '' },
    });
  const value = line.from ?? EMPTY[name] ?? null;
  const patch = key ? { [name]: { [key]: value ?? '' } } : (AS_CHANGED[name]?.(value) ?? { [name]: value });
  return kind.change(context, recordId, { version, ...patch });
}
