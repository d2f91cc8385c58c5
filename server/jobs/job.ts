import type { z } from 'zod';
import type { AnyJob, Context, Lane, Tools } from '../commands/types';

/**
 * What somebody waits for, what waits for servers outside, mail, what works through whole files or all records, and the
 * rest, each with workers of its own: a mailbox that never answers holds up no import, and an import no mail.
 */
export const LANES: Readonly<Record<Lane, number>> = { now: 1, outside: 4, mail: 1, long: 2, short: 1 };

/** Something done in the background: its name in the queue, what it needs, and what it does. */
export interface Job<Input> {
  name: string;
  lane: Lane;
  input: z.ZodType<Input>;
  run: (tools: Tools, input: Input) => Promise<void>;
  /** When it is done without being asked for: five fields of crontab(5), UTC. */
  cron?: string;
}

/** A job with its input checked before it is done. */
export const defineJob = <Input>(job: Job<Input>): Job<Input> & AnyJob => ({
  ...job,
  handle: (tools, payload) => job.run(tools, job.input.parse(payload)),
});

/** How often a job is tried before it is given up. */
const MOST_TRIES = 12;

/**
 * Asks for a job, in the transaction of the command that asks: it is done after the commit or not at all.
 * @param key what makes two requests the same; one that waits already is not asked for twice
 * @param runAt not before; at once when left out
 */
export async function addJob<Input>(
  context: Pick<Context, 'sequelize' | 'tx'>,
  job: Pick<Job<Input>, 'name' | 'input'>,
  input: Input,
  key: string | null = null,
  runAt: Date | null = null,
): Promise<void> {
  await context.sequelize.query('SELECT queue_job(:name, :input::json, :key, :tries, :runAt)', {
    replacements: { name: job.name, input: JSON.stringify(input), key, tries: MOST_TRIES, runAt },
    transaction: context.tx,
  });
}
