import { migrateQueue } from '@emporikon/server/jobs/queue';
import { toolsOf } from '@emporikon/server/tools';
import { readConfig } from '@emporikon/server/config';
import { connect } from '@emporikon/server/db/connect';
import { migrate } from '@emporikon/server/db/migrate';
import { loadDemo } from './load';

async function load(): Promise<void> {
  const config = readConfig(process.env);
  const sequelize = connect(config.databaseUrl, 2);
  await migrate(sequelize);
  await migrateQueue(config.databaseUrl);
  const tools = toolsOf(config, sequelize);
  const loaded = await loadDemo(tools);
  await tools.readers.close();
  process.stdout.write(loaded ? 'demo loaded\n' : 'there are records already; the demo was left alone\n');
  await sequelize.close();
}

load().catch((error: Error) => {
  process.stderr.write(`${error.stack ?? error.message}\n`);
  process.exit(1);
});
