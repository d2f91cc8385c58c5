import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { visibilityHandlers } from './routes';

export const visibility: Room = {
  name: 'visibility',
  routes: [visibilityHandlers],
  tables: [
    ...plain('setting', 'teams', 'visibility_defaults'),
    ...plain('ground', 'audiences', 'audience_members', 'restricted', 'sight_pending', 'hidden_matches'),
  ],
};
