import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { syncAllJob, syncJob } from './jobs';
import { caldavHandlers } from './routes';

export const caldav: Room = {
  name: 'caldav',
  routes: [caldavHandlers],
  jobs: [syncJob, syncAllJob],
  tables: [
    ...plain('setting', 'caldav_links'),
    ...plain('ground', 'caldav_objects', 'caldav_events', 'carddav_cards'),
  ],
};
