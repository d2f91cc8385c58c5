import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { productHandlers } from './routes';

export const products: Room = {
  name: 'products',
  routes: [productHandlers],
  tables: [
    ...plain('setting', 'products', 'price_lists', 'prices'),
    { table: 'deal_lines', role: 'work', refers: refersTo('deal') },
  ],
};
