import type { Room } from '../http/room';
import { productHandlers } from './routes';

export const products: Room = {
  name: 'products',
  routes: [productHandlers],
};
