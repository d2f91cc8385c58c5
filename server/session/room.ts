import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { identify } from './identify';
import { sessionHandlers } from './routes';
import { tokenHandlers } from './tokens';
import { userHandlers } from './users';

export const session: Room = {
  name: 'session',
  routes: [sessionHandlers, tokenHandlers, userHandlers],
  before: identify,
  tables: plain(
    'setting',
    'users',
    'access_tokens',
    'sessions',
    'sign_ins',
    'sign_in_failures',
    'idempotency_keys',
  ),
};
