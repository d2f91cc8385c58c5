import type { Room } from '../http/room';
import { mountQuoteFiles, quoteHandlers } from './routes';

export const quotes: Room = {
  name: 'quotes',
  routes: [quoteHandlers],
  files: (app, { tools }) => mountQuoteFiles(app, tools),
};
