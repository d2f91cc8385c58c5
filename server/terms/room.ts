import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { termHandlers } from './routes';

export const terms: Room = { name: 'terms', routes: [termHandlers], tables: plain('setting', 'terms') };
