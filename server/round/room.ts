import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { keepRoundsJob } from './keep';
import { roundMail, roundMailJob } from './mail';
import { rhythmHandlers } from './rhythms';
import { roundHandlers } from './routes';

export const round: Room = {
  name: 'round',
  routes: [roundHandlers, rhythmHandlers],
  effects: [roundMail],
  jobs: [keepRoundsJob, roundMailJob],
  tables: [...plain('setting', 'rhythms'), ...plain('ground', 'round_later')],
};
