import { join } from 'node:path';
import { systemTools, type Tools } from '@emporikon/server/commands/context';
import { LiveFeed } from '@emporikon/server/events/live';
import { buildApp } from '@emporikon/server/http/app';
import { connect } from '@emporikon/server/db/connect';
import { migrate } from '@emporikon/server/db/migrate';
import { User } from '@emporikon/server/db/models/users';
import { installed, rooms } from '@emporikon/server/rooms';
import { migrateQueue } from '@emporikon/server/jobs/queue';

/** An empty house on the bench's own database, with one rep. */
export async function openHouse() {
  const url = process.env.TEST_DATABASE_URL ?? '';
  const sequelize = connect(url, 6);
  await sequelize.query('DROP SCHEMA public CASCADE; CREATE SCHEMA public;');
  await migrate(sequelize);
  await migrateQueue(url);
  const tools = systemTools(
    sequelize,
    {
      ours: ['wharfside.example'],
      currency: 'EUR',
      country: 'GB',
      publicUrl: 'http://127.0.0.1:4600',
      mapTiles: null,
    },
    {
      door: { allowed: [] },
      exchange: null,
      post: null,
      lookUps: [],
      scanner: null,
      geocoder: null,
      openId: null,
      sealKey: null,
    },
    installed,
  );
  const user = await User.create({
    id: crypto.randomUUID(),
    name: 'Bench',
    email: 'bench@wharfside.example',
    role: 'rep',
    timeZone: 'UTC',
    passwordHash: 'x',
    active: true,
    createdAt: new Date(),
  });
  return { sequelize, tools, user };
}

/** Serves a house with its interface on a free port. */
export async function serveHouse(tools: Tools) {
  const live = new LiveFeed(process.env.TEST_DATABASE_URL ?? '');
  const app = await buildApp({ tools, rooms, live, webRoot: join(process.cwd(), 'web/dist') });
  await app.listen({ host: '127.0.0.1', port: 0 });
  const address = app.server.address();
  return { app, live, url: `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}` };
}
