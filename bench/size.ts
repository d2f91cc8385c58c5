/** Whether the benches run small, to see that they still run at all: their figures mean nothing then. */
const isSmall = process.env.BENCH_SMALL === '1';

/** How much of something a bench takes. */
export const sized = (full: number, small: number): number => (isSmall ? small : full);
