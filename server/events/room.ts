import type { Room } from '../http/room';
import { mountLive } from './routes';

export const events: Room = {
  name: 'events',
  files: (app, { tools, live, build }) => mountLive(app, tools, live, build),
};
