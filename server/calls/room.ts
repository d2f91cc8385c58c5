import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { callEffect } from './place';
import { callHandlers } from './routes';

export const calls: Room = {
  name: 'calls',
  routes: [callHandlers],
  effects: [callEffect],
  tables: [
    { table: 'calls', role: 'work', refers: refersTo('person'), erase: 'delete', export: true },
    ...plain('setting', 'phone_lines'),
    ...plain('ground', 'webhook_receipts'),
  ],
};
