import type { Room } from '../http/room';
import { forecastHandlers } from './routes';

export const forecast: Room = {
  name: 'forecast',
  routes: [forecastHandlers],
};
