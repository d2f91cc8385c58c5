import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { bulkJobs } from './jobs';
import { bulkHandlers } from './routes';

export const bulk: Room = {
  name: 'bulk',
  routes: [bulkHandlers],
  jobs: bulkJobs,
  tables: [
    ...plain('work', 'bulk_changes'),
    { table: 'bulk_rows', role: 'ground', key: "t.bulk_id::text || '/' || t.row" },
  ],
};
