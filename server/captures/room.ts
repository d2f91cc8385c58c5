import type { Room } from '../http/room';
import { captureHandlers, mountMessageViews } from './routes';

export const captures: Room = {
  name: 'captures',
  routes: [captureHandlers],
  files: (app, { tools }) => mountMessageViews(app, tools),
};
