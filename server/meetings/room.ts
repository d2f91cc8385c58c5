import type { Room } from '../http/room';
import { plain } from '../db/tables';
import { invitationMail } from './mail';
import { meetingHandlers } from './routes';
import { mountFeeds } from './feed';

export const meetings: Room = {
  name: 'meetings',
  routes: [meetingHandlers],
  pages: mountFeeds,
  effects: [invitationMail],
  tables: [
    {
      table: 'task_people',
      role: 'work',
      refers: [{ column: 'person_id', to: 'people', unique: ['task_id'] }],
      erase: 'delete',
      export: true,
    },
    ...plain('ground', 'invitations', 'calendar_feeds'),
  ],
};
