import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { placeJob } from './jobs';
import { placeHandlers } from './routes';

export const places: Room = {
  name: 'places',
  routes: [placeHandlers],
  jobs: [placeJob],
  tables: plain('ground', 'towns', 'town_names', 'gazetteer', 'places', 'places_due'),
};
