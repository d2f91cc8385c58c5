import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { roleHandlers } from './routes';

export const roles: Room = { name: 'roles', routes: [roleHandlers], tables: plain('setting', 'roles') };
