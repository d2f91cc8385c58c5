import type { CloneKind, ClonePart } from '@emporikon/contract/cloning';
import type { CustomField } from '../db/models/fields';
import { Op, type Model, type ModelStatic } from 'sequelize';
import type { Context } from '../commands/context';
import { ProjectPerson } from '../db/models/afterDeals';
import { DealRoleRow, LeadAnswer } from '../db/models/deals';
import { ListMember } from '../db/models/fields';
import { TaskPerson } from '../db/models/meetings';
import { DealLine } from '../db/models/pipelines';
import { Task } from '../db/models/tasks';
import { fieldsOf } from '../fields/values';
import { mayChange, maySee } from '../fields/rights';

/** A record as it stands, by its attributes. */
export type Source = Record<string, unknown> & { id: string };

/** A column of the record itself, or rows of another table that point to it. */
type Part =
  | { columns: readonly string[] }
  | { model: ModelStatic<Model>; points: string; only?: Record<string, unknown> };

const rows = (model: unknown, points: string, only: Record<string, unknown> = {}): Part => ({
  model: model as ModelStatic<Model>,
  points,
  only,
});
const openTasks = (points: string): Part =>
  rows(Task, points, { doneAt: null, seriesId: null, isInviting: false });

/** What of each kind of record can come along. Addresses and numbers never do: one address is one person. */
export const PARTS: Readonly<Record<CloneKind, Partial<Record<ClonePart, Part>>>> = {
  person: {
    facts: { columns: ['companyId', 'department', 'standing', 'standingTerm', 'timeZone', 'rhythmDays'] },
    tags: { columns: ['tags'] },
    lists: rows(ListMember, 'personId'),
    notes: { columns: ['background'] },
    tasks: openTasks('personId'),
  },
  company: {
    facts: {
      columns: [
        'address',
        'kind',
        'kindTerm',
        'parentId',
        'industry',
        'employees',
        'technologies',
        'country',
        'timeZone',
        'rhythmDays',
      ],
    },
    tasks: openTasks('companyId'),
  },
  lead: { answers: rows(LeadAnswer, 'leadId'), tasks: openTasks('leadId') },
  deal: {
    tags: { columns: ['tags'] },
    people: rows(DealRoleRow, 'dealId'),
    lines: rows(DealLine, 'dealId'),
    tasks: openTasks('dealId'),
  },
  task: { notes: { columns: ['notes', 'checklist'] }, people: rows(TaskPerson, 'taskId') },
  project: {
    people: rows(ProjectPerson, 'projectId'),
    notes: { columns: ['notes'] },
    tasks: openTasks('projectId'),
  },
  case: { notes: { columns: ['words'] } },
};

const isFilled = (value: unknown): boolean =>
  value !== null && value !== undefined && value !== '' && !(Array.isArray(value) && !value.length);

/** The fields of one's own that the copier may set anew and that may stand on two records. */
async function copiedFields(context: Context, kind: CloneKind): Promise<CustomField[]> {
  const fields = await fieldsOf(context, kind);
  return fields.filter(
    (field) =>
      !field.isUnique && field.kind !== 'formula' && maySee(context, field) && mayChange(context, field),
  );
}

/** The values of those fields, by their keys. */
export async function fieldValues(
  context: Context,
  kind: CloneKind,
  source: Source,
): Promise<Record<string, string>> {
  const known = (source.custom ?? {}) as Record<string, string>;
  const fields = await copiedFields(context, kind);
  return Object.fromEntries(
    fields.flatMap(({ key }) => (known[key] === undefined ? [] : [[key, known[key]] as const])),
  );
}

/** The rows that come along with a part. */
export async function rowsOfPart(context: Context, part: Part, id: string): Promise<Source[]> {
  if ('columns' in part) return [];
  const found = await part.model.findAll({
    where: { [part.points]: id, ...part.only },
    order: ['id'],
    limit: 500,
    transaction: context.tx,
  });
  return found.map((row) => row.get({ plain: true }) as Source);
}

/** How much there is of each part, of those that have any. */
export async function countParts(
  context: Context,
  kind: CloneKind,
  source: Source,
): Promise<{ part: ClonePart; count: number }[]> {
  const counts: { part: ClonePart; count: number }[] = [];
  for (const [name, part] of Object.entries(PARTS[kind]) as [ClonePart, Part][]) {
    const count =
      'columns' in part
        ? part.columns.filter((column) => isFilled(source[column])).length
        : await part.model.count({
            where: { [part.points]: source.id, ...part.only, id: { [Op.not]: null } },
            transaction: context.tx,
          });
    if (count) counts.push({ part: name, count });
  }
  const fields = Object.keys(await fieldValues(context, kind, source)).length;
  return fields ? [...counts, { part: 'fields', count: fields }] : counts;
}

/** The columns of a record that come along with the chosen parts. */
export const columnsWith = (
  kind: CloneKind,
  source: Source,
  parts: ReadonlySet<ClonePart>,
): Record<string, unknown> =>
  Object.fromEntries(
    (Object.entries(PARTS[kind]) as [ClonePart, Part][]).flatMap(([name, part]) =>
      parts.has(name) && 'columns' in part
        ? part.columns.map((column) => [column, source[column]] as const)
        : [],
    ),
  );
