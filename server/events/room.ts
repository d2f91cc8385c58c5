import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { eventTypeHandlers } from './types';
import { mountLive } from './routes';

export const events: Room = {
  name: 'events',
  routes: [eventTypeHandlers],
  files: (app, { tools, live, build }) => mountLive(app, tools, live, build),
  tables: plain('ground', 'events', 'followed'),
};
