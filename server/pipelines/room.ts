import type { Room } from '../http/room';
import { pipelineHandlers } from './routes';

export const pipelines: Room = {
  name: 'pipelines',
  routes: [pipelineHandlers],
};
