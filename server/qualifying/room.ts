import type { Room } from '../http/room';
import { bringBackJob, scoreAllJob, trainJob } from './jobs';
import { qualifyingHandlers } from './routes';

export const qualifying: Room = {
  name: 'qualifying',
  routes: [qualifyingHandlers],
  jobs: [bringBackJob, scoreAllJob, trainJob],
};
