import { spawn } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import Papa from 'papaparse';
import { findCompanies } from '@emporikon/core/matching/lookAlikes';
import { firmBookOf } from './crowd/firmBook';
import { inWords, judge, type Figures, type Said } from './matching/judge';
import { compared, easyTable, truthOf, wildTable, type Table } from './matching/tables';
import { drawReliability } from './plot';
import { sized } from './size';

const isSmall = sized(3, 1) !== 3;
const SIZES = isSmall ? [500] : [10_000, 100_000, 1_000_000];
const RUNS = isSmall
  ? [[500, 1] as const]
  : ([
      [1000, 12],
      [3000, 12],
      [5000, 10],
      [10_000, 8],
      [20_000, 2],
    ] as const);
const WILD = isSmall ? 800 : 20_000;
const SEED = 11;
const WATCH = `process.on('exit',()=>process.stderr.write('most memory '+process.resourceUsage().maxRSS+'\\n'))`;
const PLOT = 'docs/matching-reliability.png';

const asCsv = ({ rows }: Table): string => Papa.unparse(rows);

/** Runs the command as anybody would; seconds and the most memory it held, in MB. */
function match(file: string, out: string): Promise<{ seconds: number; memory: number }> {
  const began = performance.now();
  return new Promise((resolve, reject) => {
    const words = [
      '--import',
      `data:text/javascript,${WATCH}`,
      'cli/bin/emporikon.mjs',
      'match',
      '--out',
      out,
      file,
    ];
    const child = spawn(process.execPath, words, { stdio: ['ignore', 'ignore', 'pipe'] });
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => (said += String(chunk)));
    child.once('exit', (code) => {
      if (code) return reject(new Error(said));
      const memory =
        Math.max(...[...said.matchAll(/most memory (\d+)/g)].map((one) => Number(one[1]))) / 1024;
      resolve({ seconds: (performance.now() - began) / 1000, memory });
    });
  });
}

interface Printed extends Said {
  a: number;
  b: number;
}
/** The printed pairs, with what is true of them; rows are named r1, r2 and so on. */
const printedOf = ({ who }: Table, csv: string): Printed[] =>
  csv
    .split('\n')
    .slice(1)
    .filter(Boolean)
    .map((line) => {
      const [one = '', two = '', said = ''] = line.split(',');
      const [a, b] = [Number(one.slice(1)) - 1, Number(two.slice(1)) - 1];
      return { a, b, probability: Number(said), isSame: who[a] === who[b] };
    });

interface Run {
  figures: Figures;
  printed: Printed[];
  seconds: number;
  memory: number;
}
async function run(table: Table, folder: string): Promise<Run> {
  const [file, out] = [join(folder, 'table.csv'), join(folder, 'pairs.csv')];
  await writeFile(file, asCsv(table));
  const { seconds, memory } = await match(file, out);
  const printed = printedOf(table, await readFile(out, 'utf8'));
  return { figures: judge(printed, truthOf(table.who)), printed, seconds, memory };
}

const round = (value: number, places = 4): string => value.toFixed(places);

function printBins({ bins }: Figures): void {
  for (const { pairs, same, said } of bins)
    if (pairs)
      console.log(
        `  said ${round(said / pairs, 2)}  true ${round(same / pairs, 2)}  ${'#'.repeat(Math.round((40 * same) / pairs)).padEnd(40)} ${pairs} pairs`,
      );
}

/** How many true pairs are found, by what was done to their rows when they were written down. */
function printMechanisms({ who, how }: Table, printed: readonly Printed[]): void {
  const rowsOf = new Map<number, number[]>();
  who.forEach((one, row) => rowsOf.set(one, [...(rowsOf.get(one) ?? []), row]));
  const found = new Set(
    printed
      .filter((pair) => pair.probability >= 0.5)
      .map((pair) => `${Math.min(pair.a, pair.b)} ${Math.max(pair.a, pair.b)}`),
  );
  const counts = new Map<string, { all: number; found: number }>();
  for (const rows of rowsOf.values())
    for (const [at, a] of rows.entries())
      for (const b of rows.slice(at + 1))
        for (const mechanism of new Set([...(how[a] ?? []), ...(how[b] ?? [])])) {
          const count = counts.get(mechanism) ?? { all: 0, found: 0 };
          count.all++;
          if (found.has(`${a} ${b}`)) count.found++;
          counts.set(mechanism, count);
        }
  for (const [mechanism, count] of [...counts].sort((x, y) => x[1].found / x[1].all - y[1].found / y[1].all))
    console.log(
      `  ${mechanism.padEnd(18)} ${String(count.found).padStart(5)} of ${String(count.all).padStart(5)} pairs found (${round((100 * count.found) / count.all, 1)} %)`,
    );
}

/** How many of the true pairs are compared at all. */
function proposedOf(table: Table): number {
  const { features, pairs } = compared(table);
  let same = 0;
  for (const code of pairs) {
    const a = Math.floor(code / features.rows);
    if (table.who[a] === table.who[code - a * features.rows]) same++;
  }
  return same / truthOf(table.who);
}

async function wild(folder: string): Promise<void> {
  const table = wildTable(WILD, 77, 'test');
  const { figures, printed } = await run(table, folder);
  console.log(
    `${table.rows.length} rows of many cultures, names that were in no training: ${inWords(figures)}; proposed ${round(proposedOf(table))}`,
  );
  printBins(figures);
  printMechanisms(table, printed);
  for (const seed of isSmall ? [] : [555, 556, 557, 559]) {
    const other = await run(wildTable(6000, seed, 'test', false), folder);
    console.log(`6,000 rows, other habits and columns: ${inWords(other.figures)}`);
  }
  if (!isSmall)
    await drawReliability(
      [
        {
          title: 'pairs printed, crowd of many cultures',
          judged: printed.map((pair) => ({ confidence: pair.probability, isRight: pair.isSame })),
        },
      ],
      PLOT,
    );
}

async function steady(folder: string): Promise<void> {
  const all: Figures[] = [];
  for (const [size, runs] of RUNS)
    for (let at = 0; at < runs; at++)
      all.push((await run(easyTable(size, 1000 + 7 * at + size), folder)).figures);
  const worst = (of: (figures: Figures) => number): string => round(Math.min(...all.map(of)));
  console.log(
    `${all.length} easier tables: worst F1 ${worst((one) => one.f1)}, worst precision of 0.95 and more ${worst((one) => one.sure)}, worst precision at 0.5 ${worst((one) => one.precision)}, worst calibration error ${round(Math.max(...all.map((one) => one.calibration)))}`,
  );
}

async function large(folder: string): Promise<void> {
  const took: { rows: number; seconds: number }[] = [];
  for (const size of SIZES) {
    const table = easyTable(size, SEED);
    const csv = asCsv(table);
    const began = performance.now();
    Papa.parse(csv);
    const floor = (performance.now() - began) / 1000;
    const { figures, seconds, memory } = await run(table, folder);
    took.push({ rows: table.rows.length, seconds });
    console.log(
      `${table.rows.length} rows: ${round(seconds, 1)} s, ${Math.round(memory)} MB, ratio ${round(seconds / floor, 1)} to parsing the file (${round(floor, 2)} s); ${inWords(figures)}`,
    );
  }
  const [first, last] = [took[1], took.at(-1)];
  if (first && last && first !== last)
    console.log(
      `time grows with rows to the power ${round(Math.log(last.seconds / first.seconds) / Math.log(last.rows / first.rows), 2)}`,
    );
}

/** Doubles of companies, found as the look-alikes page finds them. */
function companies(): void {
  const { firms, which } = firmBookOf(isSmall ? 300 : 6000, 3, 'test');
  const began = performance.now();
  const groups = findCompanies(firms, new Set());
  const seconds = (performance.now() - began) / 1000;
  const said = groups.flatMap(({ rows, probability }) =>
    rows.flatMap((a, at) =>
      rows.slice(at + 1).map((b): Said => ({ probability, isSame: which[a] === which[b] })),
    ),
  );
  console.log(`${firms.length} companies in ${round(seconds, 1)} s: ${inWords(judge(said, truthOf(which)))}`);
}

const folder = await mkdtemp(join(tmpdir(), 'match-'));
await wild(folder);
companies();
await steady(folder);
await large(folder);
await rm(folder, { recursive: true });
