import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { pipelineHandlers } from './routes';

export const pipelines: Room = {
  name: 'pipelines',
  routes: [pipelineHandlers],
  tables: plain('setting', 'pipelines', 'stages', 'close_reasons', 'currency_rates', 'plans'),
};
