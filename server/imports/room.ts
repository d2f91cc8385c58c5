import type { Room } from '../http/room';
import { chooseHandlers } from './choose';
import { previewJob, runJob, undoJob } from './jobs';
import { importHandlers, mountImportFiles } from './routes';

export const imports: Room = {
  name: 'imports',
  routes: [chooseHandlers, importHandlers],
  files: (app, { tools }) => mountImportFiles(app, tools),
  jobs: [previewJob, runJob, undoJob],
};
