import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { lookAlikeHandlers } from './routes';
import { allLookAlikesJob, lookAlikesJob } from './run';

export const lookalikes: Room = {
  name: 'lookalikes',
  routes: [lookAlikeHandlers],
  jobs: [allLookAlikesJob, lookAlikesJob],
  tables: plain(
    'ground',
    'look_alikes',
    'look_alike_runs',
    'kept_apart',
    'match_weights',
    'merges',
    'forwardings',
  ),
};
