import type { Room } from '../http/room';
import { fieldHandlers } from './routes';

export const fields: Room = {
  name: 'fields',
  routes: [fieldHandlers],
};
