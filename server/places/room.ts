import { plain } from '../db/tables';
import type { Room } from '../http/room';
import { geocodeJob } from './geocode';
import { placeJob } from './jobs';
import { placeHandlers } from './routes';

export const places: Room = {
  name: 'places',
  routes: [placeHandlers],
  jobs: [placeJob, geocodeJob],
  tables: plain('ground', 'towns', 'town_names', 'gazetteer', 'places', 'places_due', 'places_asked'),
};
