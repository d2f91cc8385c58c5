import type { Page } from '@playwright/test';

/** Times between frames while something is done in each, in ms. The source of the work gets the number of the frame as `at`. */
export const framesOf = (page: Page, work: string, frames: number): Promise<number[]> =>
  page.evaluate(
    ([count, source]) =>
      new Promise<number[]>((resolve) => {
        const step = new Function('at', String(source)) as (at: number) => void;
        const times: number[] = [];
        let last = 0;
        let at = 0;
        const frame = (now: number): void => {
          if (last) times.push(now - last);
          last = now;
          if (times.length >= Number(count)) return resolve(times);
          step(at++);
          requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    [frames, work] as const,
  );

export interface Measured {
  name: string;
  fps: number;
  /** 95 in 100 frames took no longer, in ms. */
  worst: number;
}

export function told(name: string, times: readonly number[]): Measured {
  const sorted = [...times].sort((a, b) => a - b);
  const mean = times.reduce((sum, one) => sum + one, 0) / times.length;
  return { name, fps: 1000 / mean, worst: sorted[Math.floor(sorted.length * 0.95)] ?? 0 };
}

/** Prints what was measured beside its floor, and the ratio. */
export function printBeside(floor: Measured, measured: Measured): void {
  for (const { name, fps, worst } of [floor, measured])
    console.log(`${name}: ${fps.toFixed(1)} frames a second, 95 per cent within ${worst.toFixed(1)} ms`);
  console.log(`ratio ${(floor.fps / measured.fps).toFixed(2)}`);
}
