import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { keepRoundsJob } from './keep';
import { rhythmHandlers } from './rhythms';
import { roundHandlers } from './routes';

export const round: Room = {
  name: 'round',
  routes: [roundHandlers, rhythmHandlers],
  jobs: [keepRoundsJob],
  tables: [...plain('setting', 'rhythms'), ...plain('ground', 'round_later')],
};
