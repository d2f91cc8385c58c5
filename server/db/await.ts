import pg from 'pg';

const [SOONEST_MS, LATEST_MS] = [500, 10_000];

/** Refusals that waiting does not mend: a wrong password, a database that is not there, a role that may not. */
const FINAL = new Set(['28P01', '28000', '3D000', '42501']);

/**
 * Waits until the database answers, for as long as it takes; says once that it waits, and again every minute.
 * @throws where the database answers and will not let us in
 */
export async function waitForDatabase(url: string, say: (text: string) => void): Promise<void> {
  let wait = SOONEST_MS;
  let saidAt = -Infinity;
  for (;;) {
    const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 5000 });
    client.on('error', () => undefined);
    try {
      await client.connect();
      await client.query('SELECT 1');
      return;
    } catch (error) {
      if (error instanceof Error && 'code' in error && FINAL.has(String(error.code))) throw error;
      if (performance.now() - saidAt > 60_000) {
        say('waiting for the database; it does not answer');
        saidAt = performance.now();
      }
      await new Promise((resolve) => setTimeout(resolve, wait));
      wait = Math.min(LATEST_MS, wait * 1.6);
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}
