import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { calendarHandlers } from './routes';

export const calendar: Room = {
  name: 'calendar',
  routes: [calendarHandlers],
  tables: plain('setting', 'closed_days'),
};
