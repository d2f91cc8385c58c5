import type { OwnRecord } from '@emporikon/core/fields/own';
import type { Model, ModelStatic } from 'sequelize';
import { requireActor, type Context } from '../commands/context';
import { Case, Project } from '../db/models/afterDeals';
import { Deal, Lead, Stage } from '../db/models/deals';
import { Company, Person } from '../db/models/people';
import { Task } from '../db/models/tasks';
import { notFound, stale } from '../http/problems';
import { rowAsSeen } from './rights';
import { checkValues, showValues, withValues, type Values } from './values';

type OwnedRow = Model & { id: string; version: number; custom: Values };
interface Kind {
  model: ModelStatic<OwnedRow>;
  name: string;
  /** What decides which fields are for it. */
  is?: (row: OwnedRow, context: Context) => Promise<string | null> | string | null;
}
const as = (model: unknown): ModelStatic<OwnedRow> => model as ModelStatic<OwnedRow>;

async function pipelineOf(row: OwnedRow, { tx }: Context): Promise<string | null> {
  const stage = await Stage.findByPk(row.get('stageId') as string, { transaction: tx });
  return stage?.pipelineId ?? null;
}

const KINDS: Readonly<Record<OwnRecord, Kind>> = {
  person: { model: as(Person), name: 'fullName', is: (row) => row.get('standing') as string },
  company: { model: as(Company), name: 'name', is: (row) => row.get('kind') as string },
  lead: { model: as(Lead), name: 'title' },
  deal: { model: as(Deal), name: 'title', is: pipelineOf },
  task: { model: as(Task), name: 'title' },
  project: { model: as(Project), name: 'title' },
  case: { model: as(Case), name: 'title' },
};

/** @throws 404 where there is none that the actor may see */
async function load(context: Context, record: OwnRecord, id: string, lock: boolean): Promise<OwnedRow> {
  const row = await KINDS[record].model.findByPk(id, { transaction: context.tx, lock });
  if (!row) throw notFound(`There is no such ${record}.`);
  return row;
}

export async function showFields(context: Context, record: OwnRecord, id: string) {
  const row = await load(context, record, id, false);
  const { is } = KINDS[record];
  const items = await showValues(context, record, row.custom, (await is?.(row, context)) ?? null);
  return { version: row.version, items };
}

/** @throws 404, 409 with what stands there when the version is old, 422 for a value that does not fit its field */
export async function changeFields(
  context: Context,
  record: OwnRecord,
  id: string,
  { version, values }: { version: number; values: Values },
): Promise<{ version: number; eventId: string | null }> {
  const row = await load(context, record, id, true);
  if (row.version !== version) throw stale(await rowAsSeen(context, row));
  const checked = await checkValues(context, record, id, values);
  await context.write.update(row, { custom: withValues(row.custom, checked) }, version);
  const name = String(row.get(KINDS[record].name));
  const eventId = await context.write.event('change fields', `Changed ${name}`, requireActor(context).id);
  return { version: row.version, eventId };
}
