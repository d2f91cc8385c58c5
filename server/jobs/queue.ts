import { EventEmitter } from 'node:events';
import {
  Logger,
  run,
  runMigrations,
  runOnce,
  type Runner,
  type TaskList,
  type WorkerEvents,
} from 'graphile-worker';
import pg from 'pg';
import type { Tools } from '../commands/context';
import type { AnyJob, Lane } from '../commands/types';
import { LANES } from './job';

/** Brings the tables of the queue up to date. Safe from several processes at once. */
export const migrateQueue = (connectionString: string): Promise<void> =>
  runMigrations({ connectionString, logger: quiet });

const quiet = new Logger(() => () => undefined);
const tasksOf = (tools: Tools, jobs: readonly AnyJob[]): TaskList =>
  Object.fromEntries(jobs.map(({ name, handle }) => [name, (payload: unknown) => handle(tools, payload)]));

/** Does every job that waits, and returns when none is left. For a run without a worker of its own. */
export const runWaitingJobs = (
  connectionString: string,
  tools: Tools,
  jobs: readonly AnyJob[],
): Promise<void> =>
  runOnce({
    connectionString,
    taskList: tasksOf(tools, jobs),
    logger: quiet,
    noHandleSignals: true,
    concurrency: 1,
  });

const ALIVE = 4600_0002;
const SWEEP_MS = 2000;

/**
 * A worker of the queue. It holds an advisory lock for as long as it lives, so that the jobs of one that was killed are
 * free again within seconds instead of hours.
 */
export class JobWorker {
  private runners: Runner[] = [];
  private pools: pg.Pool[] = [];
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private last: Promise<unknown> = Promise.resolve();

  constructor(
    private readonly connectionString: string,
    private readonly tools: Tools,
    private readonly jobs: readonly AnyJob[],
    private readonly onError: (error: Error) => void,
  ) {
    this.lost = new Promise((resolve) => (this.isLost = resolve));
  }

  /** Resolves when it can work no more, because the database went away. */
  readonly lost: Promise<void>;
  private isLost: () => void = () => undefined;

  async start(): Promise<void> {
    const client = new pg.Client({ connectionString: this.connectionString, keepAlive: true });
    client.on('error', (error) => {
      this.onError(error);
      this.isLost();
    });
    client.on('end', () => this.isLost());
    await client.connect();
    this.client = client;
    for (const lane of Object.keys(LANES) as Lane[]) this.runners.push(await this.startLane(lane));
    await this.sweep();
    this.timer = setInterval(() => void this.sweep().catch(this.onError), SWEEP_MS);
  }

  private async startLane(lane: Lane): Promise<Runner> {
    const atOnce = LANES[lane];
    const jobs = this.jobs.filter((job) => job.lane === lane);
    const events = new EventEmitter() as WorkerEvents;
    events.on('worker:create', ({ worker }) => {
      void this.ask('SELECT pg_advisory_lock($1, hashtext($2))', [ALIVE, worker.workerId]).catch(
        this.onError,
      );
    });
    events.on('job:error', ({ error, job }) =>
      this.onError(
        new Error(`${job.task_identifier}: ${error instanceof Error ? error.message : String(error)}`),
      ),
    );
    // A pool of our own: one that the runner makes has nobody left to hear its errors once the runner is stopped.
    const pool = new pg.Pool({ connectionString: this.connectionString, max: atOnce + 2 });
    pool.on('error', this.onError);
    pool.on('connect', (client) => client.on('error', () => undefined));
    this.pools.push(pool);
    const runner = await run({
      events,
      pgPool: pool,
      taskList: tasksOf(this.tools, jobs),
      concurrency: atOnce,
      crontab: jobs.flatMap(({ name, cron }) => (cron ? [`${cron} ${name}`] : [])).join('\n'),
      pollInterval: 1000,
      noHandleSignals: true,
      logger: quiet,
    });
    runner.promise.catch((error: Error) => {
      this.onError(error);
      this.isLost();
    });
    return runner;
  }

  /** One question after the other over the one connection. */
  private ask(sql: string, values: readonly unknown[]): Promise<unknown> {
    const next = this.last.then(() => this.client?.query(sql, [...values]));
    this.last = next.catch(() => undefined);
    return next;
  }

  /** Frees the jobs of workers whose lock nobody holds any more. */
  private async sweep(): Promise<void> {
    await this.ask(
      `WITH held AS (SELECT DISTINCT locked_by AS id FROM graphile_worker._private_jobs WHERE locked_by IS NOT NULL),
            dead AS (SELECT id FROM held WHERE NOT EXISTS (
              SELECT 1 FROM pg_locks l WHERE l.locktype = 'advisory' AND l.classid = $1 AND l.objid = (hashtext(held.id)::bigint & 4294967295) AND l.granted))
       SELECT graphile_worker.force_unlock_workers(array_agg(id)) FROM dead HAVING count(*) > 0`,
      [ALIVE],
    );
  }

  async stop(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await Promise.all(this.runners.map((runner) => runner.stop().catch(() => undefined)));
    await Promise.all(this.pools.map((pool) => pool.end().catch(() => undefined)));
    await this.client?.end().catch(() => undefined);
    this.client = null;
  }
}
