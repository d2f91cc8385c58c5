import fc from 'fast-check';
import { orgChart, type Line } from './orgChart';

const lines = (text: string): Line[] =>
  text.split(' ').map((one) => ({ from: one[0] ?? '', to: one[2] ?? '' }));

describe('an org chart', () => {
  it('names its heads and keeps all that is without loops', () =>
    expect(orgChart(lines('b>a c>a d>b'))).toEqual({ lines: lines('b>a c>a d>b'), loops: [], heads: ['a'] }));
  it('sets aside what would close a loop, of any length', () => {
    expect(orgChart(lines('a>b b>a')).loops).toEqual(lines('b>a'));
    expect(orgChart(lines('a>b b>c c>d d>a')).loops).toEqual(lines('d>a'));
  });
  it('lets one report to two', () => expect(orgChart(lines('c>a c>b')).heads).toEqual(['a', 'b']));
  it('never has a loop and loses no line, whatever is given', () =>
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(7), fc.nat(7)), { maxLength: 40 }), (pairs) => {
        const given = pairs.filter(([a, b]) => a !== b).map(([a, b]) => ({ from: `${a}`, to: `${b}` }));
        const { lines: drawn, loops } = orgChart(given);
        expect(drawn.length + loops.length).toBe(given.length);
        // Kahn's algorithm takes every line away exactly when there is no loop.
        let left = [...drawn];
        for (let before = -1; before !== left.length;) {
          before = left.length;
          left = left.filter((line) => left.some((other) => other.to === line.from));
        }
        expect(left).toEqual([]);
      }),
    ));
});
