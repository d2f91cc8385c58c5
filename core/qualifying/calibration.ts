export interface Forecasted {
  /** The chance that was given, 0 to 1. */
  chance: number;
  /** 1 when it came true, else 0. */
  outcome: number;
}

/** The Brier score: the mean squared difference of chance and outcome, 0 (best) to 1. Source: Brier 1950. */
export const brier = (made: readonly Forecasted[]): number =>
  made.reduce((sum, one) => sum + (one.chance - one.outcome) ** 2, 0) / Math.max(1, made.length);

/**
 * The Wilson score interval of a share. Source: Wilson 1927, as in Agresti & Coull 1998.
 * @param z how many standard deviations; 1.96 for 95 per cent
 */
export function wilson(hits: number, of: number, z = 1.959964): { low: number; high: number } {
  if (of === 0) return { low: 0, high: 1 };
  const share = hits / of;
  const below = 1 + (z * z) / of;
  const middle = share + (z * z) / (2 * of);
  const spread = z * Math.sqrt((share * (1 - share)) / of + (z * z) / (4 * of * of));
  return { low: Math.max(0, (middle - spread) / below), high: Math.min(1, (middle + spread) / below) };
}

export interface Bin {
  /** Mean chance that was given in it, and how often it came true, with its Wilson interval. */
  given: number;
  came: number;
  low: number;
  high: number;
  count: number;
}

/** A reliability table: what was given, in equal bins, against what came true. Empty bins are left out. */
export function reliability(made: readonly Forecasted[], bins = 5): Bin[] {
  return Array.from({ length: bins }, (_, at) =>
    made.filter((one) => Math.min(bins - 1, Math.floor(one.chance * bins)) === at),
  )
    .filter((inside) => inside.length > 0)
    .map((inside) => {
      const hits = inside.reduce((sum, one) => sum + one.outcome, 0);
      return {
        given: inside.reduce((sum, one) => sum + one.chance, 0) / inside.length,
        came: hits / inside.length,
        ...wilson(hits, inside.length),
        count: inside.length,
      };
    });
}
