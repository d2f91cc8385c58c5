import { AsyncLocalStorage } from 'node:async_hooks';
import pg from 'pg';
import { Sequelize } from 'sequelize';
import { defineModels } from './models/index';

/** Bigints that fit a double come back as numbers; money in minor units always does (checked on the way in). */
pg.types.setTypeParser(pg.types.builtins.INT8, Number);

/** Compiling a question that takes milliseconds costs more than it, and so does sharing it out; pages are read from memory or from flash. */
export const SHORT_QUESTIONS = '-c jit=off -c random_page_cost=1.1 -c max_parallel_workers_per_gather=0';

/** What runs inside a transaction, and so holds a connection of the pool. */
const holders = new AsyncLocalStorage<{ holds: boolean }>();

/**
 * Runs a command that holds a connection. Whoever asks for a second one meanwhile, or waits for something outside, would
 * let all others wait for it: a pool of which every connection is held by somebody who wants another stands still.
 */
export async function holdingConnection<Result>(run: () => Promise<Result>): Promise<Result> {
  const holder = { holds: true };
  try {
    return await holders.run(holder, run);
  } finally {
    holder.holds = false;
  }
}

/** @throws inside a transaction @param what would be waited for */
export function mustHoldNoConnection(what: string): void {
  if (holders.getStore()?.holds) throw new Error(`${what} was asked for inside a transaction`);
}

/** Whose connections show no record to anybody who has not said who they are (`commands/sight.ts`). */
const AS_MEMBER = '-c role=emporikon_member';

/**
 * Opens a pool on a PostgreSQL database and binds the models to it.
 * @param as `owner` for migrations and what looks after the database itself; `member` for all that works on records
 */
export function connect(url: string, poolSize = 10, as: 'owner' | 'member' = 'owner'): Sequelize {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    dialectModule: pg,
    dialectOptions: { options: as === 'member' ? `${SHORT_QUESTIONS} ${AS_MEMBER}` : SHORT_QUESTIONS },
    logging: false,
    pool: { max: poolSize, min: 0, idle: 10_000, acquire: 20_000 },
    define: { underscored: true, timestamps: false, freezeTableName: true },
  });
  sequelize.addHook('beforePoolAcquire', () => mustHoldNoConnection('a second connection'));
  defineModels(sequelize);
  return sequelize;
}
