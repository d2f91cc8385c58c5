import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { bringBackJob, scoreAllJob, trainJob } from './jobs';
import { qualifyingHandlers } from './routes';

export const qualifying: Room = {
  name: 'qualifying',
  routes: [qualifyingHandlers],
  jobs: [bringBackJob, scoreAllJob, trainJob],
  tables: [
    ...plain('setting', 'fit_rules', 'warmth_rules', 'owner_rules', 'win_models'),
    { table: 'lead_scores', role: 'note', refers: refersTo('lead') },
    { table: 'signals', role: 'note', refers: refersTo('person'), erase: 'delete', export: true },
  ],
};
