import {
  OptimisticLockError,
  type Attributes,
  type CreationAttributes,
  type Model,
  type ModelStatic,
  type Transaction,
} from 'sequelize';
import type { UserRole } from '../db/models/users';
import { EventRow, type Change } from '../db/models/ledger';
import { stale } from '../http/problems';
import { addJob } from '../jobs/job';
import type { Followed, Tools, Write } from './types';
import { DEEPEST, FOLLOW } from './followers';

/** What is never kept in events: bytes that are immutable and large, and passwords in any form. */
const LEFT_OUT = new Set(['raw', 'sealed', 'passwordHash']);

/** A row as it is told to somebody: without own fields, of which not everybody may see each. */
function told(row: Record<string, unknown>): Record<string, unknown> {
  return Object.fromEntries(Object.entries(row).filter(([key]) => key !== 'custom'));
}

/** A row as it is written into events: plain JSON, times in ISO 8601. */
export function rowOf(instance: Model): Record<string, unknown> {
  const plain = instance.get({ plain: true }) as Record<string, unknown>;
  return Object.fromEntries(
    Object.entries(plain)
      .filter(([key]) => !LEFT_OUT.has(key))
      .map(([key, value]) => [key, value instanceof Date ? value.toISOString() : value]),
  );
}

/**
 * The columns that come back from the database once a row is written; a file that is in it does not: 60 MB would be sent and
 * parsed once more.
 */
const returnedColumns = (model: ModelStatic<Model>): string[] =>
  Object.entries(model.getAttributes()).flatMap(([name, { field }]) =>
    name === 'raw' ? [] : [field ?? name],
  );

const keyOf = (instance: Model): string =>
  `${(instance.constructor as ModelStatic<Model>).tableName}/${String(instance.get('id'))}`;

/**
 * The one door for writes. It notes every row it changes, before and after, and hands them to the command's event,
 * from which undo, live updates and the history are made.
 */
export class Writer implements Write {
  private readonly changes: Change[] = [];
  private sentence = '';
  /** At which version this command left each row it wrote. */
  private readonly versions = new Map<string, unknown>();

  constructor(
    private readonly tools: Tools,
    private readonly tx: Transaction,
    /** Who may give this command, and so take it back; everybody when null. */
    private readonly roles: readonly UserRole[] | null = null,
  ) {}

  async insert<M extends Model>(model: ModelStatic<M>, values: CreationAttributes<M>): Promise<M> {
    const instance = await model.create(values, {
      transaction: this.tx,
      returning: returnedColumns(model) as unknown as true,
    });
    this.changes.push({
      table: model.tableName,
      id: String(instance.get('id')),
      before: null,
      after: rowOf(instance),
    });
    return instance;
  }

  /**
   * Changes a row. A row with a version gets the next one; if `expected` is given and the row is at another, the write
   * is refused with what stands there now. Where nothing is expected and somebody else wrote since it was read, the whole
   * command is run again on what stands there now (`isRetryableConflict`).
   */
  async update<M extends Model>(instance: M, patch: Partial<Attributes<M>>, expected?: number): Promise<M> {
    let before = rowOf(instance);
    if (expected !== undefined && before.version !== expected) throw stale(told(before));
    instance.set(patch as Partial<M>);
    if (!instance.changed()) return instance;
    try {
      await instance.save({ transaction: this.tx });
    } catch (error) {
      if (!(error instanceof OptimisticLockError)) throw error;
      before = await this.catchUp(instance, expected, error);
      instance.set(patch as Partial<M>);
      await instance.save({ transaction: this.tx });
    }
    this.changes.push({
      table: (instance.constructor as ModelStatic<M>).tableName,
      id: String(before.id),
      before,
      after: rowOf(instance),
    });
    this.versions.set(keyOf(instance), instance.get('version'));
    return instance;
  }

  /**
   * The row was written since it was read. By this very command, which holds it twice: it goes on from there. By somebody
   * else: whoever expected a version is told, and any other command is run again.
   * @returns the row as it stands now
   */
  private async catchUp(
    instance: Model,
    expected: number | undefined,
    error: OptimisticLockError,
  ): Promise<Record<string, unknown>> {
    const now = rowOf(await instance.reload({ transaction: this.tx }));
    if (this.versions.get(keyOf(instance)) === now.version) return now;
    throw expected === undefined ? error : stale(told(now));
  }

  async remove(instance: Model): Promise<void> {
    const before = rowOf(instance);
    await instance.destroy({ transaction: this.tx });
    this.changes.push({
      table: (instance.constructor as ModelStatic<Model>).tableName,
      id: String(before.id),
      before,
      after: null,
    });
  }

  /** Notes a change made otherwise, in the same transaction. */
  note(change: Change): void {
    this.changes.push(change);
  }

  because(words: string | undefined): void {
    this.sentence = words ?? '';
  }

  /**
   * Appends the command's event with all that was written. Called once, last.
   * @param command what was done, stable: `file capture`
   * @param label for people: `Filed Ines Duarte`
   * @returns the event's id, null when nothing was written
   */
  async event(
    command: string,
    label: string,
    actorId: string | null,
    undoes: string | null = null,
  ): Promise<string | null> {
    if (!this.changes.length) return null;
    const { cause, followers } = this.tools;
    const depth = cause ? cause.depth + 1 : 0;
    if (depth > DEEPEST) throw new Error(`events follow each other in a circle, at “${command}”`);
    const causeId = cause?.eventId ?? null;
    const told = { command, actorId, changes: this.changes, undoes, at: this.tools.now(), causeId, depth };
    for (const complete of followers.completes)
      await complete(this.tools, this, { ...told, because: this.sentence }, this.tx);
    const event: Followed = { ...told, id: this.tools.newId(), changes: this.changes.splice(0) };
    await EventRow.create(
      {
        ...event,
        changes: [...event.changes],
        label,
        roles: this.roles && [...this.roles],
      },
      { transaction: this.tx },
    );
    for (const follow of followers.within) await follow(this.tools, this.tx, event);
    const context = { sequelize: this.tools.sequelize, tx: this.tx };
    for (const { name } of followers.after.filter((one) => one.concerns(event)))
      await addJob(context, FOLLOW, { eventId: event.id, follower: name });
    return event.id;
  }
}
