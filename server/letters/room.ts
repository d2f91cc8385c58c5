import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { keepInSent } from './keepInSent';
import { letterHandlers } from './routes';
import { letterMail } from './send';
import { mountTracked } from './tracked';

export const letters: Room = {
  name: 'letters',
  routes: [letterHandlers],
  pages: mountTracked,
  effects: [letterMail, keepInSent],
  tables: [
    {
      table: 'letters',
      role: 'note',
      refers: refersTo('person', 'company', 'lead', 'deal'),
      erase: 'delete',
      export: false,
    },
    { table: 'letter_recipients', role: 'note', refers: refersTo('person'), erase: 'delete', export: true },
    { table: 'letter_files', role: 'note', erase: 'keep', export: false },
    { table: 'letter_links', role: 'note', erase: 'keep', export: false },
    ...plain('setting', 'tracking_rules'),
    ...plain('setting', 'letter_templates'),
    { table: 'signatures', role: 'setting', key: 't.user_id' },
    { table: 'submissions', role: 'setting', key: 't.user_id' },
    { table: 'mail_domains', role: 'setting', key: 't.domain' },
  ],
};
