import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { digestJob, noticeMail } from './mail';
import { noticeHandlers } from './routes';
import { noticeSettingHandlers } from './settings';

export const notices: Room = {
  name: 'notices',
  routes: [noticeHandlers, noticeSettingHandlers],
  effects: [noticeMail],
  jobs: [digestJob],
  tables: [
    {
      table: 'notices',
      role: 'note',
      refers: refersTo('person', 'company', 'lead', 'deal'),
      erase: 'delete',
      export: false,
    },
    ...plain('ground', 'notice_choices'),
  ],
};
