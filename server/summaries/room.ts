import type { Room } from '../http/room';
import { mountSummaries } from './serve';

export const summaries: Room = {
  name: 'summaries',
  files: (app, { tools }) => mountSummaries(app, tools),
};
