import type { Room } from '../http/room';
import { lookUpNewJob } from './automatic';
import { lookUpHandlers } from './routes';
import { runJob } from './runs';

export const lookups: Room = {
  name: 'lookups',
  routes: [lookUpHandlers],
  jobs: [lookUpNewJob, runJob],
};
