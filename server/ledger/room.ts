import type { Room } from '../http/room';
import { ledgerHandlers } from './routes';

export const ledger: Room = {
  name: 'ledger',
  routes: [ledgerHandlers],
};
