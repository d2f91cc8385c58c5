import { fold } from '../people/text';
import { LOCAL_NAMES } from './localNames';
import type { Town } from './place';

const LARGE = 50_000;
/** Between the name of a town and where it lies: "Frankfurt am Main", "Newcastle upon Tyne". */
const LIES = /^(.{3,}?)\s(?:am|an der|a der|im|in|upon|on|sur|sous|del|de la|nad|ob der|vor der)\s/iu;

/** Other names by which a country's own people write a town; folded. */
const locals = new Map<string, string[]>();
for (const { country, town, name } of LOCAL_NAMES) {
  const key = `${country} ${town}`;
  locals.set(key, [...(locals.get(key) ?? []), name]);
}

/** The folded names by which a town of the gazetteer is found: its own, in other languages, without where it lies. */
export function namesOfTown({ name, country, population }: Town): string[] {
  const short = population >= LARGE ? (LIES.exec(name)?.[1] ?? '') : '';
  const bare = name.replace(/\s*\(.*\)/, '');
  const all = [name, bare, ...(locals.get(`${country} ${name}`) ?? []), short, ...name.split(' / ')];
  return [...new Set(all.map(fold))].filter((folded) => folded.length > 1 || folded === fold(name));
}

/** Where a country as a whole is shown: the middle of its people. */
export function middleOf(towns: readonly Town[]): Town[] {
  const sums = new Map<string, { weight: number; lon: number; lat: number }>();
  for (const { country, population, lon, lat } of towns) {
    const sum = sums.get(country) ?? { weight: 0, lon: 0, lat: 0 };
    const weight = population + 1;
    sums.set(country, {
      weight: sum.weight + weight,
      lon: sum.lon + lon * weight,
      lat: sum.lat + lat * weight,
    });
  }
  return [...sums].map(([country, { weight, lon, lat }]) => ({
    name: '',
    country,
    population: weight,
    lon: lon / weight,
    lat: lat / weight,
  }));
}

/** A town as one line of the gazetteer's file: name, country, population, longitude, latitude, with tabs between. */
export function readTown(line: string): Town | null {
  const [name = '', country = '', population = '', lon = '', lat = ''] = line.split('\t');
  const town = { name, country, population: Number(population), lon: Number(lon), lat: Number(lat) };
  return name && country.length === 2 && [town.population, town.lon, town.lat].every(Number.isFinite)
    ? town
    : null;
}
