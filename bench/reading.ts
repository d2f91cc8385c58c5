import { readNote, whoByRules } from '@emporikon/core/reading/call/read';
import { readEmail } from '@emporikon/core/reading/email/read';
import type { Claim } from '@emporikon/core/reading/types';
import { readPage } from '@emporikon/core/reading/page/read';
import { tagNote } from '@emporikon/core/reading/tagger/tag';
import { performance } from 'node:perf_hooks';
import { drawReliability, type Plate } from './plot';
import { calibrationError, reliability, report, SURE, tallyOf, type Judged } from './reading/judge';
import {
  loadLabelled,
  PARTS,
  SETS,
  type LabelledDocument,
  type LabelledSet,
  type Part,
} from './reading/labelled';

const AT = '2026-11-24T10:00:00+00:00';
/** Where the plot of the test part is kept. */
const PLOT = 'docs/reading-reliability.png';

const noteOptions = (country: string) => ({ at: AT, zone: 'Europe/London', country });
const READERS: Record<LabelledSet, (document: LabelledDocument) => Judged[] | Promise<Judged[]>> = {
  notes: (note) => tallyOf(note, readNote(note.text, noteOptions(note.country))),
  pages: (page) => tallyOf(page, { claims: readPage(page.text, { url: page.url }).claims, intents: [] }),
  mails: async (mail) => {
    const raw = new TextEncoder().encode(mail.text.replace(/\n/g, '\r\n'));
    const { claims } = await readEmail(raw, { ours: ['wharfside.example'], receivedAt: AT });
    return tallyOf(mail, { claims, intents: [] });
  },
};

/** How long a keystroke takes: every third of each note, read as it is typed; in ms. */
function keystroke(notes: readonly LabelledDocument[]): number {
  const times: number[] = [];
  for (const { text, country } of notes) {
    readNote(text, noteOptions(country));
    for (let length = 1; length <= text.length; length += 3) {
      const began = performance.now();
      readNote(text.slice(0, length), noteOptions(country));
      times.push(performance.now() - began);
    }
  }
  times.sort((a, b) => a - b);
  return times[Math.floor(times.length * 0.99)] ?? 0;
}

const WHO = new Set(['fullName', 'companyName', 'jobTitle']);

/** Says how much the rules alone, the model alone and both together find of whom notes are about. */
function compare(notes: readonly LabelledDocument[]): void {
  const ways: Record<string, (note: LabelledDocument) => Claim[]> = {
    'rules alone': ({ text }) => whoByRules(text),
    'model alone': ({ text }) =>
      tagNote(text).map(({ likelihood, ...tagged }) => ({ ...tagged, confidence: likelihood, source: '' })),
    both: ({ text, country }) => readNote(text, noteOptions(country)).claims,
  };
  for (const [way, read] of Object.entries(ways)) {
    const judged = notes.flatMap((note) => tallyOf(note, { claims: read(note), intents: [] }));
    report(
      `who, ${way}`,
      judged.filter((one) => WHO.has(one.field)),
    );
  }
}

/** Says how much of the labelled documents of a kind was read right: in all, by field and by language. */
async function measure(set: LabelledSet, part: Part): Promise<Judged[]> {
  const documents = loadLabelled(set, part);
  const judged = (await Promise.all(documents.map(READERS[set]))).flat();
  console.log(`${documents.length} ${set} (${part})`);
  report('all', judged);
  for (const key of ['field', 'language'] as const)
    for (const name of [...new Set(judged.map((one) => one[key]))].sort())
      report(
        `${key} ${name}`,
        judged.filter((one) => one[key] === name),
      );
  const sure = judged.filter((one) => (one.confidence ?? 0) >= SURE);
  const wrong = sure.filter((one) => !one.isRight).length;
  console.log(
    `given ${SURE} or more: ${sure.length}, of which wrong ${((100 * wrong) / Math.max(1, sure.length)).toFixed(1)} %`,
  );
  console.log(`expected calibration error ${calibrationError(judged).toFixed(3)}`);
  if (set === 'notes') compare(documents);
  if (set === 'notes') console.log(`a keystroke: 99 in 100 within ${keystroke(documents).toFixed(1)} ms`);
  if (part === 'test') return judged;
  reliability(judged);
  for (const { id, field, isRight, value, confidence } of judged)
    if (!isRight)
      console.log(`  ${id}: ${confidence === null ? 'missing' : `wrong ${confidence}`} ${field} ${value}`);
  return judged;
}

/** Reads a part of the labelled documents, of one kind where one is named: `npm run bench reading [part] [set]`. */
async function main(): Promise<void> {
  const [part = 'test', ...sets] = process.argv.slice(2) as [Part?, ...LabelledSet[]];
  if (!PARTS.includes(part)) throw new Error(`There is no part “${part}”; there are ${PARTS.join(', ')}.`);
  const plates: Plate[] = [];
  for (const set of SETS)
    if (!sets.length || sets.includes(set)) plates.push({ title: set, judged: await measure(set, part) });
  if (part === 'test' && plates.length === SETS.length) await drawReliability(plates, PLOT);
}

await main();
