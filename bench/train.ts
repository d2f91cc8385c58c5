import { fold } from '@emporikon/core/people/text';
import { featuresOf } from '@emporikon/core/reading/tagger/features';
import { MOST_TOKENS, type StoredWeights } from '@emporikon/core/reading/tagger/tag';
import { tokensOf } from '@emporikon/core/reading/tagger/tokens';
import { noteMaker, type Part } from '@emporikon/core/reading/tagger/training/generate';
import { learn, wholeRight, type Example } from '@emporikon/core/reading/tagger/training/learn';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { loadLabelled, type LabelledDocument } from './reading/labelled';

const SEED = 20261201;
const NOTES = 12_000;
/** A written note counts as much as so many generated ones. */
const WRITTEN = 12;
/** A word stands for itself where it is that frequent outside of names, firms and titles. */
const FREQUENT = 12;
const SCALE = 100;
/** Weights smaller than this, in hundredths, say nothing. */
const SMALLEST = 20;
const KINDS = { fullName: 1, companyName: 3, jobTitle: 5 } as const;

/** Mulberry32, a generator of 32 bits: the same series for the same seed. */
function randomFrom(seed: number): () => number {
  let state = seed;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

interface Spans {
  text: string;
  spans: { start: number; end: number; kind: keyof typeof KINDS }[];
}

function ofParts(parts: readonly Part[]): Spans {
  let text = '';
  const spans: Spans['spans'] = [];
  for (const part of parts) {
    if (part.kind) spans.push({ start: text.length, end: text.length + part.text.length, kind: part.kind });
    text += part.text;
  }
  return { text, spans };
}

/** Where the labels of a note stand in it; a label that is not in it as it is written is left out. */
function ofLabels({ text, labels }: LabelledDocument): Spans {
  const lowered = text.toLowerCase();
  const spans = labels.flatMap(({ field, value }): Spans['spans'] => {
    if (!(field in KINDS)) return [];
    const start = lowered.indexOf(value.toLowerCase());
    return start < 0 ? [] : [{ start, end: start + value.length, kind: field as keyof typeof KINDS }];
  });
  return { text, spans };
}

const tagsOf = ({ text, spans }: Spans): number[] =>
  tokensOf(text, MOST_TOKENS).map((token) => {
    const span = spans.find(({ start, end }) => token.start < end && start < token.end);
    if (!span) return 0;
    return KINDS[span.kind] + (token.start > span.start ? 1 : 0);
  });

/** Trains the model of `core/reading/tagger` and writes its weights: `npm run train`. */
function main(): void {
  const random = randomFrom(SEED);
  const make = noteMaker(random);
  const generated = Array.from({ length: NOTES }, () => ofParts(make()));
  const written = loadLabelled('notes', 'training').map(ofLabels);
  const counts = new Map<string, number>();
  for (const note of generated)
    tokensOf(note.text, MOST_TOKENS).forEach((token, at) => {
      const word = fold(token.text) || token.text;
      if (tagsOf(note)[at] === 0) counts.set(word, (counts.get(word) ?? 0) + 1);
    });
  const words = new Set([...counts].filter(([, count]) => count >= FREQUENT).map(([word]) => word));
  const exampleOf = (note: Spans): Example => ({
    features: featuresOf(tokensOf(note.text, MOST_TOKENS), (word) => words.has(word)),
    tags: tagsOf(note),
  });
  const examples = [
    ...generated.map(exampleOf),
    ...written.flatMap((note) => Array.from({ length: WRITTEN }, () => exampleOf(note))),
  ];
  const began = performance.now();
  const weights = learn(examples, { passes: 2, rate: 0.1, hold: 1e-4, random });
  console.log(`${examples.length} notes in ${((performance.now() - began) / 1000).toFixed(0)} s`);
  for (const part of ['training', 'fitting'] as const)
    console.log(
      `whole notes right, ${part}: ${wholeRight(loadLabelled('notes', part).map(ofLabels).map(exampleOf), weights).toFixed(3)}`,
    );
  const kept = [...weights.features]
    .map(([name, values]) => [name, Array.from(values, (value) => Math.round(value * SCALE))] as const)
    .filter(([, values]) => values.some((value) => Math.abs(value) >= SMALLEST))
    .sort(([a], [b]) => (a < b ? -1 : 1));
  const stored: StoredWeights = {
    scale: SCALE,
    words: [...words].sort().join(' '),
    steps: Array.from(weights.steps, (value) => Math.round(value * SCALE)),
    features: Object.fromEntries(kept.map(([name, values]) => [name, values.join(' ')])),
  };
  const json = JSON.stringify(stored);
  writeFileSync(join(process.cwd(), 'core/reading/tagger/weights.json'), `${json}\n`);
  console.log(`${kept.length} features, ${(json.length / 1000).toFixed(0)} kB`);
}

main();
