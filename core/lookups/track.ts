/** How something went so far: so many of so many. */
export interface Rate {
  hits: number;
  of: number;
}

/** What is believed before anything was seen, and how many observations that belief is worth. */
export interface Belief {
  mean: number;
  weight: number;
}

/**
 * A share shrunk towards what was believed before: the mean of the Beta posterior, (hits + mean·weight) / (of + weight).
 * Source: the Beta-binomial model of any textbook (Gelman et al., Bayesian Data Analysis, 2.4).
 */
export const shrunk = ({ hits, of }: Rate, { mean, weight }: Belief): number =>
  (hits + mean * weight) / (of + weight);

/** How far a source's own word is trusted before any of its answers was kept or refused. */
const OWN_WORD_WEIGHT = 6;

/**
 * The confidence of an answer: what the source says of it, corrected by how often its answers of this field were kept.
 * @param said 0 to 1, the source's own
 * @param kept how many of the decided ones were kept
 */
export const trusted = (said: number, kept: Rate): number =>
  Math.min(0.99, Math.max(0.01, shrunk(kept, { mean: said, weight: OWN_WORD_WEIGHT })));
