import type { Room } from '../http/room';
import { lookAlikeHandlers } from './routes';
import { allLookAlikesJob, lookAlikesJob } from './run';

export const lookalikes: Room = {
  name: 'lookalikes',
  routes: [lookAlikeHandlers],
  jobs: [allLookAlikesJob, lookAlikesJob],
};
