import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { hostHandlers } from './hosts';
import { settingsHandlers } from './routes';

export const settings: Room = {
  name: 'settings',
  routes: [hostHandlers, settingsHandlers],
  tables: plain('setting', 'allowed_hosts'),
};
