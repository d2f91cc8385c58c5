import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gunzipSync } from 'node:zlib';
import { middleOf, namesOfTown, readTown } from '@emporikon/core/places/gazetteer';
import type { Town } from '@emporikon/core/places/place';
import { runInTransaction, type Context, type Tools } from '../commands/context';

const AT_ONCE = 4000;
interface Edition {
  packed: Buffer;
  version: string;
}
/** Beside the bundle of the process, or in the build that a test runs with. */
export function readEdition(): Edition {
  const found = ['./towns.tsv.gz', '../dist/towns.tsv.gz']
    .map((path) => fileURLToPath(new URL(path, import.meta.url)))
    .find((path) => existsSync(path));
  if (!found) throw new Error('The gazetteer is not built; run `npm run build`.');
  const packed = readFileSync(found);
  return { packed, version: createHash('sha256').update(packed).digest('hex') };
}

const run = (context: Context, sql: string, bind: Record<string, unknown>): Promise<unknown> =>
  context.sequelize.query(sql, { bind, transaction: context.tx });

async function insertTowns(context: Context, towns: readonly Town[], from: number): Promise<void> {
  const of = <Key extends keyof Town>(key: Key): Town[Key][] => towns.map((town) => town[key]);
  const ids = towns.map((_, at) => from + at);
  await run(
    context,
    `INSERT INTO towns (id, name, country, population, lon, lat)
     SELECT * FROM unnest($ids::int[], $names::text[], $countries::text[], $populations::int8[], $lons::float8[], $lats::float8[])`,
    {
      ids,
      names: of('name'),
      countries: of('country'),
      populations: of('population'),
      lons: of('lon'),
      lats: of('lat'),
    },
  );
  const named = towns.flatMap((town, at) =>
    (town.name ? namesOfTown(town) : ['']).map((name) => ({ name, id: from + at })),
  );
  await run(
    context,
    'INSERT INTO town_names (name, town_id) SELECT * FROM unnest($names::text[], $towns::int[]) ON CONFLICT DO NOTHING',
    { names: named.map(({ name }) => name), towns: named.map(({ id }) => id) },
  );
}

/** Loads the gazetteer that ships, where it is not loaded yet or was another edition. Everything is placed anew with it. */
export async function loadTowns(tools: Tools): Promise<void> {
  const { packed, version } = readEdition();
  await runInTransaction(tools, null, async (context) => {
    await run(context, 'LOCK TABLE gazetteer IN SHARE ROW EXCLUSIVE MODE', {});
    const [rows] = await context.sequelize.query('SELECT version FROM gazetteer', {
      transaction: context.tx,
    });
    const [loaded] = rows as { version: string }[];
    if (loaded?.version === version) return;
    const towns = gunzipSync(packed)
      .toString('utf8')
      .split('\n')
      .flatMap((line) => readTown(line) ?? []);
    const all = [...towns, ...middleOf(towns)];
    await run(context, 'DELETE FROM towns', {});
    for (let at = 0; at < all.length; at += AT_ONCE) {
      await insertTowns(context, all.slice(at, at + AT_ONCE), at + 1);
      // Other work of this process goes on in between.
      await new Promise((resolve) => setImmediate(resolve));
    }
    await run(
      context,
      'INSERT INTO gazetteer (version) VALUES ($version) ON CONFLICT (id) DO UPDATE SET version = $version',
      { version },
    );
    if (loaded)
      await run(
        context,
        `INSERT INTO places_due SELECT id, 'company' FROM companies WHERE address IS NOT NULL OR country IS NOT NULL
         UNION ALL SELECT id, 'person' FROM people WHERE address IS NOT NULL OR company_id IS NOT NULL ON CONFLICT DO NOTHING`,
        {},
      );
  });
}
