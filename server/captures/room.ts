import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { captureHandlers, mountMessageViews } from './routes';

export const captures: Room = {
  name: 'captures',
  routes: [captureHandlers],
  files: (app, { tools }) => mountMessageViews(app, tools),
  tables: [
    // The original is erased with the person whose it is; claims of others that it was the source of lose it.
    { table: 'captures', role: 'work' },
    { table: 'claims', role: 'part', refers: refersTo('person', 'company'), erase: 'delete', export: true },
    ...plain('work', 'intents'),
  ],
};
