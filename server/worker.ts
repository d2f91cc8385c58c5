import { readConfig } from './config';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { jobHandlers } from './jobs/handlers';
import { JobWorker, migrateQueue } from './jobs/queue';
import { toolsOf } from './tools';

/** The process that does the long work: imports and mailboxes. Any number of them may share one database. */
async function start(): Promise<void> {
  const config = readConfig(process.env);
  const sequelize = connect(config.databaseUrl, 6);
  await migrate(sequelize);
  await migrateQueue(config.databaseUrl);
  const tools = toolsOf(config, sequelize);
  const worker = new JobWorker(config.databaseUrl, jobHandlers(tools), (error) =>
    process.stderr.write(`${error.message}\n`),
  );
  await worker.start();
  process.stdout.write('worker ready\n');
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    await worker.stop();
    tools.outside.post?.stop();
    await sequelize.close();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
}

start().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
