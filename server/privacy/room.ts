import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { mountEverything } from './everything';
import { keepTimesJob } from './keeping';
import { privacyHandlers } from './routes';

export const privacy: Room = {
  name: 'privacy',
  routes: [privacyHandlers],
  files: (app, { tools }) => mountEverything(app, tools),
  jobs: [keepTimesJob],
  tables: [
    ...plain('setting', 'keeping_times'),
    ...plain('ground', 'erasures', 'erased_marks', 'erasing_salt'),
  ],
};
