import { QueryClient } from '@tanstack/vue-query';

/** What is overdue, or rests, changes with the clock alone. */
const STALE_MS = 60_000;

/**
 * The one cache of what the server answered. An answer holds for a minute, or until anything changes: an event of the live feed or a write
 * of our own makes all of them old at once. While the feed is closed nothing is kept, because nobody would tell.
 */
const queryClient = new QueryClient({
  defaultOptions: {
    queries: { retry: false, staleTime: STALE_MS, gcTime: 5 * 60_000, networkMode: 'always' },
  },
});

/** A part of every key, so that a read that began before a change never answers one that began after it. */
let generation = 0;
let isKept = false;

/** Makes every answer old. */
export function forgetAnswers(): void {
  generation++;
  // Those on their way still answer whoever asked for them.
  queryClient.removeQueries({ predicate: ({ state }) => state.fetchStatus === 'idle' });
}

/** Says whether changes are heard of, so that answers can be kept until the next. */
export function keepAnswers(isHeard: boolean): void {
  if (isKept !== isHeard) forgetAnswers();
  isKept = isHeard;
}

/** The answer at an address: the one that is there, the one on its way, or a new one. */
export const answerAt = <Answer>(address: string, read: () => Promise<Answer>): Promise<Answer> =>
  isKept ? queryClient.fetchQuery({ queryKey: [generation, address], queryFn: read }) : read();
