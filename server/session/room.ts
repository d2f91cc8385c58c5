import type { Room } from '../http/room';
import { identify } from './identify';
import { sessionHandlers } from './routes';
import { tokenHandlers } from './tokens';
import { userHandlers } from './users';

export const session: Room = {
  name: 'session',
  routes: [sessionHandlers, tokenHandlers, userHandlers],
  before: identify,
};
