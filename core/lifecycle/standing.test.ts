import { STANDINGS, standingWhenWon, standingWithWork } from './standing';

it('a stranger becomes a prospect with the first lead, and nobody becomes less by one', () => {
  expect(STANDINGS.map(standingWithWork)).toEqual([
    'prospect',
    'prospect',
    'customer',
    'past customer',
    'partner',
    'personal',
  ]);
});

it('whoever buys is a customer, unless they are more than that to us', () => {
  expect(STANDINGS.map(standingWhenWon)).toEqual([
    'customer',
    'customer',
    'customer',
    'customer',
    'partner',
    'personal',
  ]);
});

it('settles: what a step makes of somebody, it leaves as it is', () => {
  for (const standing of STANDINGS)
    for (const step of [standingWithWork, standingWhenWon]) expect(step(step(standing))).toBe(step(standing));
});
