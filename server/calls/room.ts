import type { Room } from '../http/room';
import { callEffect } from './place';
import { callHandlers } from './routes';

export const calls: Room = {
  name: 'calls',
  routes: [callHandlers],
  effects: [callEffect],
};
