import { performance } from 'node:perf_hooks';
import Papa from 'papaparse';
import pgCopy from 'pg-copy-streams';
import type pg from 'pg';
import { pipeline } from 'node:stream/promises';
import { Readable } from 'node:stream';
import { runInTransaction, type Tools } from '@emporikon/server/commands/context';
import { Import } from '@emporikon/server/db/models/imports';
import { keepFile } from '@emporikon/server/imports/file';
import { previewImport } from '@emporikon/server/imports/preview';
import { runImport } from '@emporikon/server/imports/run';
import { openHouse } from './house';
import { sized } from './size';

const ROWS = sized(100_000, 500);
const GIVEN = 'Alba Bruno Chiara Dario Elsa Fergus Gwen Henk Isla Jonas Karin Luca Mila Nils Olga Piet'.split(
  ' ',
);
const FAMILY =
  'Arkwright Bellweather Castellan Dunmore Eberhart Fairbairn Goldacre Hollander Inglewood Jarrow'.split(' ');

/** Ranges kept for fiction in France (ARCEP) and Australia (ACMA), ten thousand numbers each. */
const RANGES =
  '+3319900 +3326191 +3335301 +3346571 +3353649 +3363998 +6125550 +6127010 +6135550 +6137010'.split(' ');
const phoneOf = (at: number): string =>
  `${RANGES[Math.floor(at / 10_000) % RANGES.length] ?? ''}${String(at % 10_000).padStart(4, '0')}`;

const rowOf = (at: number): string => {
  const name = `${GIVEN[at % GIVEN.length] ?? ''} ${FAMILY[(at * 7) % FAMILY.length] ?? ''}${at}`;
  const firm = at % 9000;
  return `${name},Firm ${firm},p${at}@firm${firm}.example,${phoneOf(at)},Buyer`;
};

/** The floor: the same rows put into a table without keys or claims, by COPY. */
async function floor(tools: Tools, csv: string): Promise<number> {
  const client = (await tools.sequelize.connectionManager.getConnection({
    type: 'write',
  })) as unknown as pg.Client;
  await client.query('CREATE TEMP TABLE floor (name text, firm text, email text, phone text, title text)');
  const began = performance.now();
  await pipeline(
    Readable.from([csv]),
    client.query(pgCopy.from('COPY floor FROM STDIN (FORMAT csv, HEADER)')),
  );
  const took = performance.now() - began;
  tools.sequelize.connectionManager.releaseConnection(client as never);
  return took;
}

async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  const csv = `Name,Company,Email,Mobile,Job title\n${Array.from({ length: ROWS }, (_, at) => rowOf(at)).join('\n')}\n`;
  const parse = performance.now();
  Papa.parse(csv);
  const parsed = performance.now() - parse;
  const copied = await floor(tools, csv);
  const one = await Import.create({
    id: crypto.randomUUID(),
    name: 'bench.csv',
    createdBy: user.id,
    createdAt: new Date(),
    kind: 'table',
    mapping: {
      columns: (['fullName', 'companyName', 'email', 'phone', 'jobTitle'] as const).map((field, index) => ({
        index,
        field,
        type: null,
      })),
      hasHead: true,
      dates: null,
      country: null,
    },
    state: 'previewing',
  });
  await runInTransaction(tools, null, (context) => keepFile(context, one.id, Buffer.from(csv)));
  let began = performance.now();
  await previewImport(tools, one.id);
  const previewed = performance.now() - began;
  await Import.update({ state: 'running' }, { where: { id: one.id } });
  began = performance.now();
  await runImport(tools, one.id);
  const ran = performance.now() - began;
  await one.reload({ attributes: ['counts'] });
  const rate = Math.round(ROWS / (ran / 1000));
  process.stdout.write(
    `${ROWS} rows: preview ${(previewed / 1000).toFixed(1)} s (ratio ${(previewed / (parsed + copied)).toFixed(1)} to parsing and COPY, ${((parsed + copied) / 1000).toFixed(2)} s)\n` +
      `import ${(ran / 1000).toFixed(1)} s, ${rate} rows a second (ratio ${(ran / copied).toFixed(1)} to COPY into a bare table)\n${JSON.stringify(one.counts)}\n`,
  );
  await sequelize.close();
}

void main();
