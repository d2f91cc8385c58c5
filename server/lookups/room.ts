import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { lookUpNewJob } from './automatic';
import { lookUpHandlers } from './routes';
import { runJob } from './runs';

export const lookups: Room = {
  name: 'lookups',
  routes: [lookUpHandlers],
  jobs: [lookUpNewJob, runJob],
  tables: [
    { table: 'look_ups', role: 'note', refers: refersTo('person', 'company'), erase: 'delete', export: true },
    ...plain('setting', 'look_up_rules', 'look_up_sources'),
    ...plain('ground', 'look_up_runs', 'look_up_purses'),
  ],
};
