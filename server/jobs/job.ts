import type { z } from 'zod';
import type { Context, Tools } from '../commands/types';

/**
 * What waits for servers outside, mail, what works through whole files or all records, and the rest, each with workers of
 * its own: a mailbox that never answers holds up no import, and an import no mail.
 */
export const LANES = { outside: 4, mail: 1, long: 2, short: 1 } as const;

/** Something done in the background: its name in the queue, what it needs, and what it does. */
export interface Job<Input> {
  name: string;
  lane: keyof typeof LANES;
  input: z.ZodType<Input>;
  run: (tools: Tools, input: Input) => Promise<void>;
  /** When it is done without being asked for: five fields of crontab(5), UTC. */
  cron?: string;
}

/** Any job, once its input no longer matters. */
export interface AnyJob extends Omit<Job<never>, 'input' | 'run'> {
  handle: (tools: Tools, payload: unknown) => Promise<void>;
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
 */
export async function addJob<Input>(
  context: Pick<Context, 'sequelize' | 'tx'>,
  job: Pick<Job<Input>, 'name' | 'input'>,
  input: Input,
  key: string | null = null,
): Promise<void> {
  await context.sequelize.query(
    'SELECT graphile_worker.add_job(:name, payload => :input::json, job_key => :key, max_attempts => :tries)',
    {
      replacements: { name: job.name, input: JSON.stringify(input), key, tries: MOST_TRIES },
      transaction: context.tx,
    },
  );
}
