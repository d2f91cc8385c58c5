import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { outboxHandlers } from './routes';

export const outbox: Room = {
  name: 'outbox',
  routes: [outboxHandlers],
  tables: plain('ground', 'outbox'),
};
