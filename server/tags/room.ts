import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { tagHandlers } from './routes';

export const tags: Room = { name: 'tags', routes: [tagHandlers], tables: plain('setting', 'tag_meanings') };
