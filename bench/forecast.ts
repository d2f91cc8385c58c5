import { performance } from 'node:perf_hooks';
import { forecastCells } from '@emporikon/core/lifecycle/forecast';
import { simulate, type ForecastDeal } from '@emporikon/core/lifecycle/play';
import { sized } from './size';

const DEALS = sized(10_000, 100);
const RUNS = sized(10_000, 100);
const ROUNDS = sized(3, 1);

/** The cheapest thing that draws as often: xorshift32 (Marsaglia 2003) in one loop, counting what falls below a half. */
function floor(draws: number): { ms: number; below: number } {
  const began = performance.now();
  let state = 4600;
  let below = 0;
  for (let at = 0; at < draws; at++) {
    state ^= state << 13;
    state ^= state >>> 17;
    state ^= state << 5;
    if (state >>> 0 < 2_147_483_648) below++;
  }
  return { ms: performance.now() - began, below };
}

/** Plays 10,000 deals through 10,000 times, a hundred million draws. The floor is as many draws of a bare generator. */
function main(): void {
  const deals = Array.from({ length: DEALS }, (_, at): ForecastDeal => ({
    id: String(at),
    ownerId: `owner ${at % 20}`,
    minor: 100_000 + ((at * 7919) % 5_000_000),
    chance: [0.15, 0.35, 0.55, 0.75][at % 4] ?? 0.5,
    won: false,
    month: `2027-${String(1 + (at % 12)).padStart(2, '0')}`,
  }));
  const best = { played: Infinity, floor: Infinity };
  for (let round = 0; round < ROUNDS; round++) {
    const began = performance.now();
    const { total } = simulate(deals, { runs: RUNS, seed: 4600, mostDraws: Infinity });
    const ms = performance.now() - began;
    const bare = floor(DEALS * RUNS);
    best.played = Math.min(best.played, ms);
    best.floor = Math.min(best.floor, bare.ms);
    console.log(
      `round ${round + 1}: played in ${(ms / 1000).toFixed(2)} s, bare draws ${(bare.ms / 1000).toFixed(2)} s (${bare.below} below a half), 10 to 90 per cent ${total.low} to ${total.high}`,
    );
  }
  const began = performance.now();
  const cells = forecastCells(deals).length;
  console.log(`${cells} cells of months and owners in ${(performance.now() - began).toFixed(1)} ms`);
  console.log(
    `${DEALS} deals, ${RUNS} runs: ${(best.played / 1000).toFixed(2)} s, floor ${(best.floor / 1000).toFixed(2)} s, ratio ${(best.played / best.floor).toFixed(2)}`,
  );
}

main();
