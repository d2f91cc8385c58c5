import { setCase } from '../../people/names';
import { fold } from '../../people/text';
import { featuresOf } from './features';
import { bestTags, scoresOf, spanLikelihood, sumsOf, type Weights } from './model';
import { tokensOf } from './tokens';
import stored from './weights.json';

/** A name, firm or title that the model finds in a note. */
export interface Tagged {
  field: 'fullName' | 'companyName' | 'jobTitle';
  value: string;
  start: number;
  end: number;
  /** How likely exactly these words are it, by the model. */
  likelihood: number;
}

/** Whom a note is about stands among its first words. */
export const MOST_TOKENS = 60;
const FIELDS: Record<number, Tagged['field']> = { 1: 'fullName', 3: 'companyName', 5: 'jobTitle' };

let known: { weights: Weights; words: ReadonlySet<string> } | null = null;
function load(): { weights: Weights; words: ReadonlySet<string> } {
  if (known) return known;
  const { scale, steps, words, features } = stored as StoredWeights;
  const weights = new Map(
    Object.entries(features).map(([name, values]) => [
      name,
      values.split(' ').map((value) => Number(value) / scale),
    ]),
  );
  known = {
    weights: { features: weights, steps: steps.map((step) => step / scale) },
    words: new Set(words.split(' ')),
  };
  return known;
}

/** The weights as they are kept: whole numbers, to be divided by the scale. */
export interface StoredWeights {
  scale: number;
  /** The words that stand for themselves. */
  words: string;
  steps: number[];
  features: Record<string, string>;
}

/**
 * The names, firms and titles in a note, by a model that was trained on generated and labelled notes.
 * @param text the note
 * @returns the surest of each kind; nothing where the model sees none
 */
export function tagNote(text: string): Tagged[] {
  const { weights, words } = load();
  const tokens = tokensOf(text, MOST_TOKENS);
  if (!tokens.length) return [];
  const scores = scoresOf(
    featuresOf(tokens, (word) => words.has(word)),
    weights,
  );
  const tags = bestTags(scores, weights);
  const sums = sumsOf(scores, weights);
  const isLowered = text === text.toLowerCase();
  const found = new Map<Tagged['field'], Tagged>();
  for (let first = 0; first < tags.length; first++) {
    const kind = tags[first] ?? 0;
    const field = FIELDS[kind];
    if (!field) continue;
    let last = first;
    while (tags[last + 1] === kind + 1) last++;
    const [start, end] = [tokens[first]?.start ?? 0, tokens[last]?.end ?? 0];
    const written = text.slice(start, end).replace(/\n/g, ' ');
    const likelihood = spanLikelihood(scores, weights, sums, first, last, kind);
    const before = found.get(field);
    if (fold(written).length > 1 && (!before || likelihood > before.likelihood + SURER))
      found.set(field, {
        field,
        value: isLowered && field !== 'jobTitle' ? setCase(written) : written,
        start,
        end,
        likelihood,
      });
    first = last;
  }
  return [...found.values()];
}

/** By so much a later name must be likelier than the first. */
const SURER = 0.3;
