import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { readWordsJob, scanJob, tidyFilesJob } from './look';
import { keepAttachmentsJob } from './mailed';
import { fileHandlers } from './routes';
import { mountFiles } from './serve';

export const files: Room = {
  name: 'files',
  routes: [fileHandlers],
  files: (app, { tools }) => mountFiles(app, tools),
  jobs: [readWordsJob, scanJob, keepAttachmentsJob, tidyFilesJob],
  tables: [
    { table: 'files', role: 'note', erase: 'keep', export: false },
    { table: 'file_versions', role: 'note', erase: 'keep', export: false },
    ...plain('setting', 'file_limits'),
    ...plain('ground', 'file_contents', 'file_parts', 'file_usage'),
  ],
};
