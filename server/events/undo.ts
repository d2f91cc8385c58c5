import { mayDo } from '@emporikon/core/rights/rights';
import { Op, QueryTypes, type Model, type ModelStatic } from 'sequelize';
import type { Actor, Context } from '../commands/context';
import { EventRow, type Change } from '../db/models/ledger';
import { mayAdd, mayTakeBack, rightToTakeBack } from '../commands/rights';
import { pastRole, pastSight } from '../commands/sight';
import { CHANGES_MANY, ERASES, HANDS_OVER, STEERS_MANY, UNDOES_MANY } from '../commands/followers';
import { rowOf } from '../commands/writer';
import { cannotUndo, conflict, forbidden, notFound } from '../http/problems';
import { CARRIED_OUT } from '../jobs/effect';
import { findFollowingEvents } from './byItself';
import { PERSONAL } from './personal';
import { unmerge } from '../lookalikes/unmerge';

/** Bookkeeping that changes without anybody meaning anything by it. */
const IGNORED_COLUMNS = new Set(['version', 'updatedAt']);
const PART_OF_MANY = 'This is a part of a bulk change. Undo that as a whole, under Bulk changes in Settings.';
/** What people outside did, and what went out to them: it is kept, whatever becomes of it. */
const FINAL = new Map([
  ['submit form', 'What came in stays as it came. Set it aside in Arrivals instead.'],
  ...[CHANGES_MANY, UNDOES_MANY, STEERS_MANY].map((command) => [command, PART_OF_MANY] as const),
  ...['choose consent', 'withdraw consent', 'confirm consent'].map(
    (command) => [command, 'They said so themselves. Note on their consent what they say now.'] as const,
  ),
  [ERASES, 'What was erased cannot be brought back.'],
  [HANDS_OVER, 'An export changes no records. Delete its file under Exports in Settings.'],
  [CARRIED_OUT, 'What went out cannot be called back.'],
]);
/** What reached rows that its author cannot see goes back on those as well, and nothing of them is told. */
const REACHES_ALL = new Set(['rename tag', 'rename source', 'move list', 'hand over everything']);
const NOUNS: Record<string, string> = {
  people: 'person',
  companies: 'company',
  leads: 'lead',
  deals: 'deal',
  tasks: 'next move',
  projects: 'project',
  project_people: 'part in a project',
  cases: 'case',
  files: 'file',
  captures: 'capture',
  claims: 'fact',
  contact_points: 'contact detail',
  look_up_rules: 'rules for look-ups',
  look_up_sources: 'source',
  ledger_entries: 'ledger entry',
  ledger_links: 'ledger entry',
  lead_answers: 'answer',
  deal_roles: 'role',
  intents: 'reading',
  questions: 'question',
  stages: 'stage',
  look_alikes: 'look-alikes',
  kept_apart: 'answer',
  calls: 'call',
  outbox: 'mail or call',
  terms: 'term',
  letters: 'letter',
  consents: 'consent',
  purposes: 'purpose',
  topics: 'topic',
  areas: 'area',
  letter_templates: 'template',
};

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

const titleOf = (row: Record<string, unknown> | null): string => {
  const title =
    row?.title ?? row?.fullName ?? row?.name ?? row?.headline ?? row?.value ?? row?.answer ?? row?.label;
  return typeof title === 'string' && title ? ` “${title.slice(0, 60)}”` : '';
};

const describe = (table: string, row: Record<string, unknown> | null): string =>
  `the ${NOUNS[table] ?? table}${titleOf(row)}`;

/** Changes of one row folded to its first state before and its last after, newest row first. */
function foldChanges(changes: readonly Change[]): Change[] {
  const folded = new Map<string, Change>();
  for (const change of changes) {
    const key = `${change.table}/${change.id}`;
    const earlier = folded.get(key);
    if (earlier) earlier.after = change.after;
    else folded.set(key, { ...change });
  }
  return [...folded.values()].reverse();
}

interface Reference {
  table: string;
  column: string;
  target: string;
  /** The column of the target that it names: mostly its id. */
  by: string;
}

/** Foreign keys as the database has them, so that a table added later is not forgotten here. */
async function references(context: Context): Promise<Reference[]> {
  return context.sequelize.query<Reference>(
    `SELECT c.conrelid::regclass::text AS "table", a.attname AS "column", c.confrelid::regclass::text AS target, b.attname AS "by"
       FROM pg_constraint c JOIN pg_attribute a ON a.attrelid = c.conrelid AND a.attnum = c.conkey[1]
       JOIN pg_attribute b ON b.attrelid = c.confrelid AND b.attnum = c.confkey[1]
      WHERE c.contype = 'f' AND c.connamespace = 'public'::regnamespace`,
    { type: QueryTypes.SELECT, transaction: context.tx },
  );
}

const modelOf = (context: Context, table: string): ModelStatic<Model> =>
  context.sequelize.model(table) as ModelStatic<Model>;

/** Rows made since that stand on a row which the undo would take away. */
async function findDependents(
  context: Context,
  change: Change,
  keys: readonly Reference[],
  own: ReadonlySet<string>,
): Promise<string[]> {
  const found: string[] = [];
  const notes = new Set(context.tables.flatMap(({ table, role }) => (role === 'note' ? table : [])));
  for (const key of keys.filter(
    ({ table, target }) => target === change.table && context.sequelize.isDefined(table) && !notes.has(table),
  )) {
    const attribute = Object.entries(modelOf(context, key.table).getAttributes()).find(
      ([, one]) => one.field === key.column,
    )?.[0];
    if (!attribute) continue;
    const rows = await modelOf(context, key.table).findAll({
      where: {
        [attribute]: key.by === 'id' ? change.id : change.after?.[key.by],
        ...('id' in modelOf(context, key.table).getAttributes()
          ? {
              id: {
                [Op.notIn]: [...own].flatMap((one) =>
                  one.startsWith(`${key.table}/`) ? [one.slice(key.table.length + 1)] : [],
                ),
              },
            }
          : {}),
      },
      transaction: context.tx,
      limit: 20,
    });
    for (const row of rows.map(rowOf))
      if (!own.has(`${key.table}/${String(row.id)}`))
        found.push(
          `${await nameDependent(context, key.table, row)} depends on ${describe(change.table, change.after)}`,
        );
  }
  return found;
}

/** What stands on a row, in words. A link has none of its own: the record it links to has. */
async function nameDependent(context: Context, table: string, row: Record<string, unknown>): Promise<string> {
  if (table !== 'ledger_links') return describe(table, row);
  for (const [key, target] of [
    ['dealId', 'deals'],
    ['leadId', 'leads'],
    ['companyId', 'companies'],
    ['personId', 'people'],
  ] as const) {
    const linked = row[key]
      ? await modelOf(context, target).findByPk(String(row[key]), { transaction: context.tx })
      : null;
    if (linked) return describe(target, rowOf(linked));
  }
  return describe(table, row);
}

async function findObstacles(context: Context, changes: readonly Change[]): Promise<string[]> {
  const reasons: string[] = [];
  const own = new Set(changes.map((change) => `${change.table}/${change.id}`));
  const keys = await references(context);
  for (const change of changes) {
    const instance = await modelOf(context, change.table).findByPk(change.id, {
      transaction: context.tx,
      lock: true,
    });
    const current = instance ? rowOf(instance) : null;
    if (!change.after) {
      if (current) reasons.push(`${describe(change.table, current)} is there again`);
    } else if (!current) reasons.push(`${describe(change.table, change.after)} is gone`);
    else {
      const after = change.after;
      const meant = Object.keys(after).filter(
        (key) => !IGNORED_COLUMNS.has(key) && (!change.before || !same(change.before[key], after[key])),
      );
      if (meant.some((key) => !same(current[key], after[key])))
        reasons.push(`${describe(change.table, after)} was changed since`);
      if (!change.before) reasons.push(...(await findDependents(context, change, keys, own)));
    }
  }
  return [...new Set(reasons)];
}

/** Taking back takes the right that the command took; what is one person's own is only theirs to take back. */
function requireTakingBack(actor: Actor | null, event: EventRow): void {
  if (!actor) return;
  if (!mayTakeBack(actor, event.roles ?? null)) throw forbidden('Your role does not let you undo this.');
  const rights = event.changes.flatMap((change) => rightToTakeBack(change) ?? []);
  // What one did wrote more than one may change by hand, such as a standing with a deal that was won.
  const held = rights.filter(
    (right) => mayDo(actor, right) || (event.actorId === actor.id && mayAdd(actor, right)),
  );
  if (event.actorId === actor.id ? rights.length && !held.length : held.length < rights.length)
    throw forbidden('Your role does not let you change all of what this changed. Nothing was undone.');
  if (event.actorId !== actor.id && event.changes.some((change) => PERSONAL.has(change.table)))
    throw notFound('There is no such change.');
}

/** What a removed row held that events never keep, such as a sealed password: without it the row cannot come back. */
function missingParts(context: Context, changes: readonly Change[]): string[] {
  return changes
    .filter((change) => change.before && !change.after)
    .filter(({ table, before }) =>
      Object.entries(modelOf(context, table).getAttributes()).some(
        ([key, column]) =>
          column.allowNull === false && column.defaultValue === undefined && !(key in (before ?? {})),
      ),
    )
    .map(({ table, before }) => `${describe(table, before)} held a secret that was not kept; add it anew`);
}

const RECORDS = ['people', 'companies', 'leads', 'deals', 'projects', 'cases'];

/**
 * Locks the records of an event, in the same order as everybody, so that what the program goes on with by itself is either
 * committed, and taken back first, or comes after and finds nothing to go on with.
 */
async function lockRecords(context: Context, changes: readonly Change[]): Promise<void> {
  for (const table of RECORDS) {
    const ids = changes.filter((change) => change.table === table).map(({ id }) => id);
    if (ids.length)
      await modelOf(context, table).findAll({
        where: { id: [...new Set(ids)] },
        attributes: ['id'],
        order: ['id'],
        transaction: context.tx,
        lock: true,
      });
  }
}

/**
 * Takes one command back, row by row, newest first, in one transaction.
 * @throws 404 for no such event, 409 when it was undone before or something was built on it, saying what
 */
export async function undo(context: Context, eventId: string): Promise<{ label: string }> {
  const event = await EventRow.findOne({ where: { id: eventId }, transaction: context.tx });
  if (!event) throw notFound('There is no such change.');
  requireTakingBack(context.actor, event);
  if (event.undoes) throw conflict('This change was itself an undo.');
  const final = FINAL.get(event.command);
  if (final) throw cannotUndo(final);
  if (event.erasedAt)
    throw cannotUndo('This changed records of somebody who has been erased since. Nothing was undone.');
  if (await EventRow.findOne({ where: { undoes: eventId }, transaction: context.tx }))
    throw conflict('This was undone already.');
  const merges = event.changes.filter((change) => change.table === 'merges' && !change.before);
  if (merges.length) {
    const newestFirst = [...merges].reverse();
    for (const [at, { id }] of newestFirst.entries())
      await unmerge(context, id, {}, { eventId: at === newestFirst.length - 1 ? eventId : null });
    return { label: event.label };
  }
  const take = (): Promise<{ label: string }> => context.write.asConsequence(() => takeBack(context, event));
  if (REACHES_ALL.has(event.command)) return pastSight(context, take);
  // What one's own command wrote besides goes back with it, seen or not.
  return context.actor ? pastRole(context, context.actor, take) : take();
}

async function takeBack(context: Context, event: EventRow): Promise<{ label: string }> {
  await lockRecords(context, event.changes);
  for (const id of await findFollowingEvents(context, event)) await undo(context, id);
  const changes = foldChanges(event.changes).filter((change) => change.before || change.after);
  const reasons = [...missingParts(context, changes), ...(await findObstacles(context, changes))];
  if (reasons.length && REACHES_ALL.has(event.command))
    throw cannotUndo('Some of what this changed was changed since. Nothing was undone.');
  if (reasons.length)
    throw cannotUndo(`Other changes depend on this: ${reasons.slice(0, 4).join('; ')}. Nothing was undone.`, {
      reasons,
    });
  for (const change of [...event.changes].reverse()) {
    const model = modelOf(context, change.table);
    const instance = await model.findByPk(change.id, { transaction: context.tx });
    if (!change.before) {
      if (instance) await context.write.remove(instance);
    } else if (!instance) await context.write.insert(model, change.before as never);
    else {
      const restored = Object.fromEntries(
        Object.entries(change.before).filter(([key]) => !IGNORED_COLUMNS.has(key)),
      );
      await context.write.update(instance, restored);
    }
  }
  await context.write.event('undo', `Undid: ${event.label}`, context.actor?.id ?? null, event.id);
  return { label: event.label };
}
