import type { Room } from '../http/room';
import { leavingHandlers } from './routes';

export const leaving: Room = { name: 'leaving', routes: [leavingHandlers], tables: [] };
