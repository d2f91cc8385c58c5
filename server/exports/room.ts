import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { makeExportJob, tidyExportsJob } from './jobs';
import { exportHandlers } from './routes';
import { mountExports } from './serve';

export const exports: Room = {
  name: 'exports',
  routes: [exportHandlers],
  files: (app, { tools }) => mountExports(app, tools),
  jobs: [makeExportJob, tidyExportsJob],
  tables: [
    ...plain('work', 'exports'),
    { table: 'export_parts', role: 'ground', key: "t.export_id::text || '/' || t.position" },
  ],
};
