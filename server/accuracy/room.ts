import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { fitJob } from './fitting';
import { accuracyHandlers } from './routes';

export const accuracy: Room = {
  name: 'accuracy',
  routes: [accuracyHandlers],
  jobs: [fitJob],
  tables: plain('setting', 'reading_fits'),
};
