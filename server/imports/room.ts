import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { chooseHandlers } from './choose';
import { previewJob, runJob, undoJob } from './jobs';
import { importHandlers, mountImportFiles } from './routes';

export const imports: Room = {
  name: 'imports',
  routes: [chooseHandlers, importHandlers],
  files: (app, { tools }) => mountImportFiles(app, tools),
  jobs: [previewJob, runJob, undoJob],
  tables: [
    ...plain('work', 'imports', 'import_shapes'),
    ...plain('ground', 'import_parts'),
    {
      table: 'import_rows',
      role: 'ground',
      refers: refersTo('person'),
      key: "t.import_id::text || '/' || t.row",
      erase: 'delete',
      export: true,
    },
  ],
};
