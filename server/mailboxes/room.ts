import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { bringAlongJob, readAllJob, readJob } from './jobs';
import { mailboxHandlers } from './routes';

export const mailboxes: Room = {
  name: 'mailboxes',
  routes: [mailboxHandlers],
  jobs: [bringAlongJob, readAllJob, readJob],
  tables: [
    ...plain('setting', 'mailboxes', 'mailbox_folders'),
    ...plain('ground', 'mailbox_messages', 'mailbox_set_aside'),
  ],
};
