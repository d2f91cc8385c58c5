import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { mountQuoteFiles, quoteHandlers } from './routes';

export const quotes: Room = {
  name: 'quotes',
  routes: [quoteHandlers],
  files: (app, { tools }) => mountQuoteFiles(app, tools),
  tables: [
    { table: 'quotes', role: 'work', refers: refersTo('deal') },
    ...plain('setting', 'quote_settings'),
    ...plain('ground', 'number_series'),
  ],
};
