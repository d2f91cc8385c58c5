import { createConnection, createServer, type AddressInfo, type Socket } from 'node:net';
import pg from 'pg';
import type { House } from './harness';

/** What is said where a connection was cut on purpose. */
export const CUT =
  /Connection terminated|ECONNRESET|EPIPE|read ECONNRESET|Client has encountered|not queryable/i;

export interface Breaker {
  /** Lets the nth statement from now on find its connection gone, as when the database goes down between two of them. */
  arm(nth: number): void;
  /** Statements since it was armed. */
  counted(): number;
  restore(): void;
}

/** Breaks connections of the program itself; those that a test or the queue look on with stay whole. */
export function breakConnections(): Breaker {
  const real = pg.Client.prototype.query;
  let left = Infinity;
  let counted = 0;
  // Sequelize says on the console that it could not roll back over a line that is gone.
  const silence = jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  const isProgram = (client: pg.Client): boolean =>
    (
      client as unknown as { connectionParameters: { options?: string } }
    ).connectionParameters.options?.includes('emporikon_member') ?? false;
  pg.Client.prototype.query = function (this: pg.Client, ...given: unknown[]) {
    if (isProgram(this)) {
      counted++;
      if (--left === 0) (this as unknown as { connection: { stream: Socket } }).connection.stream.destroy();
    }
    return (real as (...args: unknown[]) => unknown).apply(this, given);
  } as typeof real;
  return {
    arm(nth) {
      left = nth;
      counted = 0;
    },
    counted: () => counted,
    restore() {
      silence.mockRestore();
      pg.Client.prototype.query = real;
    },
  };
}

const MOST_TRIES = 6;

/** Does what waits, with one fault at most, and tries what failed again at once, as the queue does later. */
export async function workUntil(
  house: House,
  breaker: Breaker,
  isDone: () => Promise<boolean>,
): Promise<void> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    await house.sequelize.query('UPDATE graphile_worker._private_jobs SET run_at = now()');
    await house.work();
    breaker.arm(Infinity);
    const [failed] = await house.sequelize.query(
      'SELECT 1 FROM graphile_worker.jobs WHERE last_error IS NOT NULL',
    );
    if (!failed.length && (await isDone())) return;
  }
  throw new Error(`not done after ${MOST_TRIES} tries`);
}

/** Which statements out of so many are tried: the first, the last, and some in between, the same each time. */
export const spread = (count: number, tries: number): number[] => [
  ...new Set(Array.from({ length: tries }, (_, at) => 1 + Math.round((at * (count - 1)) / (tries - 1)))),
];

export interface CuttingLine {
  port: number;
  /** From now on, lets so many bytes come from the server on each line, then cuts it. */
  cutAfter(bytes: number): void;
  stop(): Promise<void>;
}

/** A line to a server on this machine that can be cut. */
export async function cuttingLine(to: number): Promise<CuttingLine> {
  let most = Infinity;
  const open = new Set<Socket>();
  const server = createServer((near) => {
    const far = createConnection(to, '127.0.0.1');
    let passed = 0;
    for (const end of [near, far]) {
      open.add(end);
      end.on('error', () => undefined);
      end.on('close', () => {
        open.delete(end);
        near.destroy();
        far.destroy();
      });
    }
    near.on('data', (data) => far.write(data));
    far.on('data', (data) => {
      passed += data.length;
      if (passed <= most) near.write(data);
      else near.write(data.subarray(0, Math.max(0, data.length - (passed - most))), () => near.destroy());
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    port: (server.address() as AddressInfo).port,
    cutAfter(bytes) {
      most = bytes;
    },
    async stop() {
      for (const end of open) end.destroy();
      await new Promise((resolve) => server.close(resolve));
    },
  };
}
