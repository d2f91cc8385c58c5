import { readConfig } from './config';
import { migrateQueue } from './jobs/queue';
import { toolsOf } from './tools';
import { waitForDatabase } from './db/await';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { LiveFeed } from './events/live';
import { buildApp } from './http/app';
import { openLog } from './log';
import { openMailIntake } from './outside/mail';
import { rooms } from './rooms';

const say = (text: string): void => void process.stdout.write(`${text}\n`);

/** The first reading of a thread compiles its patterns; nobody's message should wait for that. */
const SAMPLE = Buffer.from(
  'From: A B <a@b.example>\r\nDate: Mon, 23 Nov 2026 16:40:00 +0000\r\n\r\nHello,\r\n\r\ncould you send eight bikes by Friday 4 December at 11 for 40,000 euros?\r\n\r\nRegards\r\nA B\r\nBuyer\r\nB Ltd\r\n+44 7700 900123\r\n',
);

async function start(): Promise<void> {
  const config = readConfig(process.env);
  const log = await openLog('server', config);
  await waitForDatabase(config.databaseUrl, (text) => log.warn(text));
  const owner = connect(config.databaseUrl, 2);
  const ran = await migrate(owner);
  await owner.close();
  if (ran.length) say(`database brought up to ${ran.at(-1) ?? ''}`);
  await migrateQueue(config.databaseUrl);
  const sequelize = connect(config.databaseUrl, 10, 'member');
  const tools = toolsOf(config, sequelize);
  const live = new LiveFeed(config.databaseUrl);
  await live.start();
  const app = await buildApp({
    tools,
    rooms,
    live,
    webRoot: config.webRoot,
    log,
    trustProxy: config.trustProxy,
    clipperOrigin: config.clipperOrigin,
  });
  const mail = config.mailPort
    ? await openMailIntake(tools, config.host, config.mailPort, (error) => app.log.error(error))
    : null;
  await tools.readers.run('readParts', { raw: SAMPLE, mediaType: 'message/rfc822', options: {} });
  await app.listen({ host: config.host, port: config.port });
  say(`listening on http://${config.host}:${config.port}`);
  let stopping = false;
  const stop = async (): Promise<void> => {
    if (stopping) return;
    stopping = true;
    await mail?.stop();
    await app.close();
    await live.stop();
    await sequelize.close();
    process.exit(0);
  };
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => void stop());
}

start().catch((error: Error) => {
  process.stderr.write(`${error.message}\n`);
  process.exit(1);
});
