import { readConfig } from './config';
import { waitForDatabase } from './db/await';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { JobWorker, migrateQueue } from './jobs/queue';
import { openLog } from './log';
import { jobs } from './rooms';
import { toolsOf } from './tools';

/** Every lane works on one connection at a time, imports on two. */
const CONNECTIONS = 12;

/** The process that does the long work: imports and mailboxes. Any number of them may share one database. */
async function start(): Promise<void> {
  const config = readConfig(process.env);
  const log = await openLog('worker', config);
  await waitForDatabase(config.databaseUrl, (text) => log.warn(text));
  const owner = connect(config.databaseUrl, 2);
  await migrate(owner);
  await owner.close();
  await migrateQueue(config.databaseUrl);
  const sequelize = connect(config.databaseUrl, CONNECTIONS, 'member');
  const tools = toolsOf(config, sequelize);
  let stopping = false;
  let worker: JobWorker | null = null;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    await worker?.stop();
    await tools.readers.close();
    await sequelize.close();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
  let isFirst = true;
  while (!stopping) {
    worker = new JobWorker(config.databaseUrl, tools, jobs, (error) => log.error(error));
    try {
      await worker.start();
      if (isFirst) process.stdout.write('worker ready\n');
      isFirst = false;
      await worker.lost;
      log.warn('the database went away; its jobs go on when it is back');
    } catch (error) {
      log.error(error);
    }
    if (stopping) return;
    await worker.stop();
    await waitForDatabase(config.databaseUrl, (text) => log.warn(text));
  }
}

start().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
