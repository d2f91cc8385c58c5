import { plain, refersTo } from '../db/tables';
import type { Room } from '../http/room';
import { linkMail } from './linkMail';
import { mountProofs } from './proof';
import { mountConsentPages } from './public';
import { consentHandlers } from './routes';

export const consent: Room = {
  name: 'consent',
  routes: [consentHandlers],
  files: (app, { tools }) => mountProofs(app, tools),
  pages: mountConsentPages,
  effects: [linkMail],
  tables: [
    ...plain('setting', 'purposes', 'topics', 'areas'),
    { table: 'link_key', role: 'ground', key: 't.is_only' },
    { table: 'consents', role: 'work', refers: refersTo('person'), erase: 'delete', export: true },
  ],
};
