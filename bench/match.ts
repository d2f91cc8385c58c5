import { spawn } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import Papa from 'papaparse';
import { crowdOf, type Crowd } from './crowd/people';
import { sized } from './size';

const SIZES = sized(3, 1) === 3 ? [10_000, 100_000, 1_000_000] : [500];
const SEED = 11;
const WATCH = `process.on('exit',()=>process.stderr.write('most memory '+process.resourceUsage().maxRSS+'\\n'))`;

const asCsv = ({ rows }: Crowd): string => Papa.unparse(rows as unknown as Record<string, string>[]);

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

const round = (value: number, places = 4): string => value.toFixed(places);

/** How right the pairs are, and whether their probabilities mean what they say. */
function judge({ who }: Crowd, pairs: string): void {
  const sizes = new Map<number, number>();
  for (const one of who) sizes.set(one, (sizes.get(one) ?? 0) + 1);
  let truth = 0;
  for (const size of sizes.values()) truth += (size * (size - 1)) / 2;
  const bins = Array.from({ length: 10 }, () => ({ pairs: 0, same: 0, said: 0 }));
  let [right, wrong, sureRight, sureWrong, brier, printed] = [0, 0, 0, 0, 0, 0];
  for (const line of pairs.split('\n').slice(1)) {
    const [a = '', b = '', said = ''] = line.split(',');
    if (!said) continue;
    const p = Number(said);
    const same = who[Number(a.slice(1)) - 1] === who[Number(b.slice(1)) - 1];
    const bin = bins[Math.min(9, Math.floor(p * 10))];
    if (bin) {
      bin.pairs++;
      bin.said += p;
      if (same) bin.same++;
    }
    printed++;
    brier += (p - (same ? 1 : 0)) ** 2;
    if (p >= 0.5 && same) right++;
    else if (p >= 0.5) wrong++;
    if (p >= 0.99 && same) sureRight++;
    else if (p >= 0.99) sureWrong++;
  }
  const [precision, recall] = [right / (right + wrong), right / truth];
  console.log(
    `  at 0.5: precision ${round(precision)}, recall ${round(recall)}, F1 ${round((2 * precision * recall) / (precision + recall))}; at 0.99: precision ${round(sureRight / (sureRight + sureWrong), 5)}; Brier score of the printed pairs ${round(brier / printed)}`,
  );
  for (const { pairs: count, same, said } of bins)
    if (count)
      console.log(
        `  said ${round(said / count, 2)}  true ${round(same / count, 2)}  ${'#'.repeat(Math.round((40 * same) / count))}${' '.repeat(40 - Math.round((40 * same) / count))} ${count} pairs`,
      );
}

async function main(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'match-'));
  const took: { rows: number; seconds: number }[] = [];
  for (const care of [0.6, 0.2]) {
    const crowd = crowdOf(20_000, SEED, care);
    const [file, out] = [join(folder, 'care.csv'), join(folder, 'care.pairs.csv')];
    await writeFile(file, asCsv(crowd));
    await match(file, out);
    console.log(`20,000 rows written down with care ${care}`);
    judge(crowd, await readFile(out, 'utf8'));
  }
  for (const size of SIZES) {
    const crowd = crowdOf(size, SEED);
    const [file, out] = [join(folder, `${size}.csv`), join(folder, `${size}.pairs.csv`)];
    const csv = asCsv(crowd);
    await writeFile(file, csv);
    const began = performance.now();
    Papa.parse(csv);
    const floor = (performance.now() - began) / 1000;
    const { seconds, memory } = await match(file, out);
    took.push({ rows: crowd.rows.length, seconds });
    console.log(
      `${crowd.rows.length} rows: ${round(seconds, 1)} s, ${Math.round(memory)} MB, ratio ${round(seconds / floor, 1)} to parsing the file (${round(floor, 2)} s)`,
    );
    judge(crowd, await readFile(out, 'utf8'));
  }
  const [first, last] = [took[1], took.at(-1)];
  if (first && last && first !== last)
    console.log(
      `time grows with rows to the power ${round(Math.log(last.seconds / first.seconds) / Math.log(last.rows / first.rows), 2)}`,
    );
  await rm(folder, { recursive: true });
}

void main();
