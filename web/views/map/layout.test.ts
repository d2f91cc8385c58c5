import type { Cluster } from '@emporikon/contract/places';
import type { FeatureCollection, MultiPolygon } from 'geojson';
import { apart, flattened, readable } from './layout';

const cluster = (lon: number, count: number, name = ''): Cluster => ({
  lon,
  lat: 0,
  count,
  name,
  id: name ? 'x' : null,
  box: [lon, 0, lon, 0],
});
const spotOf = ({ lon }: { lon: number }) => ({ x: lon, y: 0 });

it('groups whose marks would cover each other are one, with all that is in them', () => {
  const found = apart([cluster(0, 5), cluster(20, 1, 'Ann'), cluster(100, 1, 'Bea')], spotOf);
  expect(found.map(({ count, name, id, box }) => [count, name, id, box])).toEqual([
    [6, '', null, [0, 0, 20, 0]],
    [1, 'Bea', 'x', [100, 0, 100, 0]],
  ]);
  expect(found.reduce((sum, { count }) => sum + count, 0)).toBe(7);
});

it('of names over each other the first is shown', () => {
  const names = [
    { name: 'Paris', x: 0, y: 0 },
    { name: 'Versailles', x: 20, y: 5 },
    { name: 'Lyon', x: 20, y: 40 },
  ];
  expect(readable(names, (one) => one).map(({ name }) => name)).toEqual(['Paris', 'Lyon']);
});

it('a country across the 180th meridian is drawn on both sides of the map, and not around the earth', () => {
  const ring = [
    [170, 60],
    [-170, 60],
    [-170, 70],
    [170, 70],
    [170, 60],
  ];
  const countries: FeatureCollection = {
    type: 'FeatureCollection',
    features: [{ type: 'Feature', properties: {}, geometry: { type: 'Polygon', coordinates: [ring] } }],
  };
  const { coordinates } = flattened(countries).features[0]?.geometry as MultiPolygon;
  expect(coordinates.map(([first]) => first?.map(([lon]) => lon))).toEqual([
    [170, 190, 190, 170, 170],
    [-190, -170, -170, -190, -190],
  ]);
});
