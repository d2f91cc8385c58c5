import type { CloneKind, ClonePart } from '@emporikon/contract/cloning';
import type { Model, ModelStatic } from 'sequelize';
import { companyKey } from '@emporikon/core/people/companies';
import { requireActor, type Context } from '../commands/context';
import { Case, Project } from '../db/models/afterDeals';
import { Deal, Lead } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import { Task } from '../db/models/tasks';
import { makePerson } from '../people/commands';
import { projectStage } from '../projects/stages';
import { notFound } from '../http/problems';
import { claimByHand } from '../people/claims';
import { firstOpenStage, notBefore, openCaseTimes } from './times';
import { columnsWith, fieldValues, PARTS, rowsOfPart, type Source } from './parts';

interface Kind {
  model: ModelStatic<Model>;
  name: string;
  noun: string;
}
const as = (model: unknown): ModelStatic<Model> => model as ModelStatic<Model>;
export const KINDS: Readonly<Record<CloneKind, Kind>> = {
  person: { model: as(Person), name: 'fullName', noun: 'person' },
  company: { model: as(Company), name: 'name', noun: 'company' },
  lead: { model: as(Lead), name: 'title', noun: 'lead' },
  deal: { model: as(Deal), name: 'title', noun: 'deal' },
  task: { model: as(Task), name: 'title', noun: 'task' },
  project: { model: as(Project), name: 'title', noun: 'project' },
  case: { model: as(Case), name: 'title', noun: 'case' },
};

/** @throws 404 for a record that whoever asks cannot see */
export async function loadSource(context: Context, kind: CloneKind, id: string): Promise<Source> {
  const row = await KINDS[kind].model.findByPk(id, { transaction: context.tx });
  if (!row) throw notFound(`There is no such ${KINDS[kind].noun}.`);
  return row.get({ plain: true }) as Source;
}

const pick = (source: Source, ...keys: readonly string[]): Record<string, unknown> =>
  Object.fromEntries(keys.map((key) => [key, source[key]]));

/** What each kind of record begins with anew: where it stands, since when, and whose it is. */
async function beginnings(
  context: Context,
  kind: CloneKind,
  source: Source,
): Promise<Record<string, unknown>> {
  const now = context.now();
  const mine = { ownerId: requireActor(context).id };
  switch (kind) {
    case 'person':
    case 'company':
      return { ...mine };
    case 'lead':
      return {
        ...mine,
        ...pick(source, 'personId', 'companyId', 'source', 'rating'),
        status: 'new',
        statusSince: now,
        createdAt: now,
        updatedAt: now,
      };
    case 'deal':
      return {
        ...mine,
        ...pick(source, 'companyId', 'amountMinor', 'currency'),
        ...(await firstOpenStage(context, String(source.stageId))),
        ...{ leadId: null, stageSince: now, expectedClose: null, createdAt: now, updatedAt: now },
      };
    case 'task':
      return {
        ...pick(source, 'kind', 'kindId', 'allDay', 'zone', 'priority', 'reminders', 'watchers', 'place'),
        ...pick(source, 'personId', 'companyId', 'leadId', 'dealId', 'projectId', 'caseId'),
        ...notBefore(now, source),
        ...{ assigneeId: mine.ownerId, createdBy: mine.ownerId, createdAt: now, isInviting: false },
      };
    case 'project':
      return {
        ...mine,
        ...pick(source, 'companyId', 'dealId'),
        ...{ stageId: (await projectStage(context, undefined)).id, stageSince: now, createdAt: now },
      };
    case 'case':
      return {
        ...mine,
        ...pick(source, 'personId', 'companyId', 'dealId', 'urgency'),
        ...{ cameBy: 'other', openedBy: mine.ownerId },
        ...(await openCaseTimes(context, source, mine.ownerId)),
      };
  }
}

/** The record itself under its new name. People and companies get their name as every new one does. */
async function insertRecord(
  context: Context,
  kind: CloneKind,
  name: string,
  values: Record<string, unknown>,
): Promise<string> {
  if (kind === 'person') {
    const person = await makePerson(context, name);
    await claimByHand(context, { personId: person.id }, 'fullName', name);
    await context.write.update(person, values as Partial<Person>);
    return person.id;
  }
  const now = context.now();
  const own =
    kind === 'company'
      ? {
          nameKey: companyKey(name),
          createdAt: now,
          updatedAt: now,
          domain: null,
          url: null,
          phone: null,
          address: null,
        }
      : {};
  const row = await context.write.insert(KINDS[kind].model, {
    id: context.newId(),
    [KINDS[kind].name]: name,
    ...own,
    ...values,
  });
  if (kind === 'company')
    await claimByHand(context, { companyId: String(row.get('id')) }, 'companyName', name);
  return String(row.get('id'));
}

const NOT_COPIED = new Set(['id', 'version', 'createdAt', 'seenBy']);

/** Rows that come along, each as a new one that points to the copy. */
async function copyRows(
  context: Context,
  kind: CloneKind,
  from: string,
  to: string,
  parts: ReadonlySet<ClonePart>,
): Promise<void> {
  const now = context.now();
  for (const name of parts) {
    const part = PARTS[kind][name];
    if (!part || 'columns' in part) continue;
    for (const row of await rowsOfPart(context, part, from)) {
      const kept = Object.fromEntries(Object.entries(row).filter(([key]) => !NOT_COPIED.has(key)));
      const has = part.model.getAttributes();
      await context.write.insert(part.model, {
        ...kept,
        ...('createdAt' in has ? { createdAt: now } : {}),
        ...(name === 'answers' ? { captureId: null, span: null } : {}),
        ...(part.model === as(Task) ? { progress: 0, entryId: null, givenBy: null, askedAfterAt: null } : {}),
        ...(name === 'people' && kind === 'task'
          ? { answer: 'waiting', answeredAt: null, comment: '', proposesStart: null, proposesEnd: null }
          : {}),
        id: context.newId(),
        [part.points]: to,
      });
    }
  }
}

/**
 * Copies a record under another name, with what is chosen of it. It is the copier's, begins where every new one begins, and
 * is seen by no more people than the old one; what was said and done stays with that.
 * @throws 404 for a record that whoever asks cannot see
 */
export async function cloneRecord(
  context: Context,
  { kind, id, name, parts }: { kind: CloneKind; id: string; name: string; parts: ReadonlySet<ClonePart> },
): Promise<{ id: string; eventId: string | null }> {
  const source = await loadSource(context, kind, id);
  const made = await insertRecord(context, kind, name, {
    ...(await beginnings(context, kind, source)),
    ...columnsWith(kind, source, parts),
    ...(parts.has('fields') ? { custom: await fieldValues(context, kind, source) } : {}),
    ...('visibility' in source ? pick(source, 'visibility', 'visibleTo') : {}),
  });
  await copyRows(context, kind, id, made, parts);
  const { noun, name: called } = KINDS[kind];
  return {
    id: made,
    eventId: await context.write.event(
      `clone ${noun}`,
      `Copied ${String(source[called])} as ${name}`,
      requireActor(context).id,
    ),
  };
}
