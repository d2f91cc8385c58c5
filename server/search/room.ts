import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { searchHandlers } from './routes';

export const search: Room = {
  name: 'search',
  routes: [searchHandlers],
  tables: plain('ground', 'find_records', 'find_words', 'find_vocabulary', 'find_places', 'worked_with'),
};
