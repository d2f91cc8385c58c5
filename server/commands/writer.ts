import {
  OptimisticLockError,
  type Attributes,
  type CreationAttributes,
  type Model,
  type ModelStatic,
  type Transaction,
} from 'sequelize';
import { EventRow, type Change } from '../db/models/ledger';
import { stale } from '../http/problems';
import { addJob } from '../jobs/job';
import { requireRight, rightFor } from './rights';
import { pastRole } from './sight';
import type { Actor, Followed, Tools, Write } from './types';
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
  private isConsequence = false;
  /** At which version this command left each row it wrote. */
  private readonly versions = new Map<string, unknown>();

  constructor(
    private readonly tools: Tools,
    readonly tx: Transaction,
    /** Whose rights are asked for; the program itself needs none. */
    private readonly actor: Actor | null,
    /** Who may give this command, and so take it back; everybody when null. */
    private readonly takes: EventRow['roles'] = null,
  ) {}

  async asConsequence<Result>(run: () => Promise<Result>): Promise<Result> {
    const before = this.isConsequence;
    this.isConsequence = true;
    try {
      return await run();
    } finally {
      this.isConsequence = before;
    }
  }

  /** @throws 403 where whoever acts has not the right to write so to the table */
  private require(table: string, write: 'add' | 'change' | 'delete'): void {
    const right = this.isConsequence ? null : rightFor(table, write);
    if (right) requireRight({ actor: this.actor }, right);
  }

  async insert<M extends Model>(model: ModelStatic<M>, values: CreationAttributes<M>): Promise<M> {
    this.require(model.tableName, 'add');
    const create = (): Promise<M> =>
      model.create(values, {
        transaction: this.tx,
        returning: returnedColumns(model) as unknown as true,
      });
    // What a command writes besides, such as an entry of the history, is also written where its author sees none of it.
    const instance = await (this.actor ? pastRole(this, this.actor, create) : create());
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
    if (expected !== undefined) this.require((instance.constructor as ModelStatic<M>).tableName, 'change');
    if (expected !== undefined && before.version !== expected) throw stale(told(before));
    instance.set(patch as Partial<M>);
    if (!instance.changed()) return instance;
    this.require((instance.constructor as ModelStatic<M>).tableName, 'change');
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
    this.require((instance.constructor as ModelStatic<Model>).tableName, 'delete');
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
    await this.asConsequence(async () => {
      for (const complete of followers.completes)
        await complete(this.tools, this, { ...told, because: this.sentence }, this.tx);
    });
    const event: Followed = { ...told, id: this.tools.newId(), changes: this.changes.splice(0) };
    await EventRow.create(
      {
        ...event,
        changes: [...event.changes],
        label,
        roles: this.takes && [...this.takes],
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
