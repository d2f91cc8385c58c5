import { PRECISIONS } from '@emporikon/core/places/place';
import { z } from 'zod';
import { Id, routes } from './common';
import { QueryIn } from './queries';

const Lon = z.number().min(-180).max(180);
const Lat = z.number().min(-90).max(90);
const Precision = z.enum(PRECISIONS);
/** Where a record is, for its dossier. */
export const PlaceView = z.object({
  lon: Lon,
  lat: Lat,
  precision: Precision.describe('what it is the place of'),
  town: z.string().describe('empty where only the country is known'),
  country: z.string(),
  ofCompany: z.boolean().describe('it is where the person’s company is'),
});
export type PlaceView = z.infer<typeof PlaceView>;
const BoxIn = z
  .tuple([z.number().min(-360).max(360), Lat, z.number().min(-360).max(540), Lat])
  .refine(([west, south, east, north]) => east > west && north > south && east - west <= 360, {
    message: 'is west, south, east, north, of one turn of the earth at most',
  })
  .describe('west, south, east, north (RFC 7946 §5); across the 180th meridian, east is beyond 180');
const Town = z.object({
  name: z.string(),
  country: z.string(),
  population: z.int(),
  lon: Lon,
  lat: Lat,
});
export type Town = z.infer<typeof Town>;
const Cluster = z.object({
  lon: z.number(),
  lat: z.number(),
  count: z.int(),
  box: z.tuple([z.number(), z.number(), z.number(), z.number()]).describe('around all that is in it'),
  id: Id.nullable().describe('of the record, where it is one'),
  name: z.string(),
});
export type Cluster = z.infer<typeof Cluster>;

export const placeRoutes = routes({
  'POST /api/queries/map': {
    summary: 'The records of a query in a part of the map, near ones together',
    tag: 'queries',
    body: z.strictObject({
      query: QueryIn,
      box: BoxIn,
      across: z.int().min(2).max(40).default(16).describe('how many groups stand side by side at most'),
    }),
    reply: z.object({
      items: z.array(Cluster),
      count: z.int().describe('how many records the query shows'),
      placed: z.int().describe('how many of them have a location'),
    }),
  },
  'POST /api/queries/nearest': {
    summary: 'The records of a query that are nearest to a position',
    tag: 'queries',
    body: z.strictObject({
      query: QueryIn,
      at: z.tuple([Lon, Lat]),
      km: z.number().positive().max(20_000).default(100).describe('no further than this'),
      limit: z.int().min(1).max(100).default(30),
    }),
    reply: z.object({
      items: z.array(
        z.object({ id: Id, name: z.string(), km: z.number(), precision: Precision, town: z.string() }),
      ),
    }),
  },
  'GET /api/places/tiles': {
    summary: 'Pictures of the map from a server that is set up for them',
    tag: 'queries',
    reply: z.object({
      tiles: z
        .object({ url: z.string(), words: z.string() })
        .nullable()
        .describe('null: countries and towns alone'),
    }),
  },
  'GET /api/places/towns': {
    summary: 'Towns of the gazetteer: the largest in a part of the map, or those of a name',
    tag: 'queries',
    query: z.object({
      name: z.string().min(2).max(100).optional(),
      box: z
        .string()
        .transform((text) => text.split(',').map(Number))
        .pipe(BoxIn)
        .optional()
        .describe('west,south,east,north'),
      limit: z.coerce.number().int().min(1).max(60).default(20),
    }),
    reply: z.object({ items: z.array(Town) }),
  },
});
