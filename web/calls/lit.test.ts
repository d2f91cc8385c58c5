import { readCallSheet } from '@emporikon/core/ledger/callSheet';
import fc from 'fast-check';
import { cutLit } from './lit';

const NOTES = [
  'spoke to Ines Duarte at Padaria Sol, needs 8 bikes, budget 40k, call back friday',
  'no answer',
  '',
  'Bo Lund rang, price too high; he decides; send quote tomorrow at 3pm +46 70 174 0601',
];

it.each(NOTES)('%j is shown whole, with its parts lit where they stand', (note) => {
  const { lit } = readCallSheet(note, { at: '2026-11-27T10:00:00+00:00' });
  const pieces = cutLit(note, lit);
  expect(pieces.map((piece) => piece.text).join('')).toBe(note);
  for (const { start, end, part } of lit.slice(0, 1))
    expect(pieces).toContainEqual({ text: note.slice(start, end), part });
});

it('loses nothing, whatever overlaps or lies outside', () => {
  const spans = fc.array(
    fc.record({
      start: fc.integer({ min: 0, max: 40 }),
      end: fc.integer({ min: 0, max: 40 }),
      part: fc.constant('who' as const),
    }),
    { maxLength: 8 },
  );
  fc.assert(
    fc.property(fc.string({ maxLength: 30 }), spans, (text, lit) => {
      const given = lit.filter(({ start, end }) => start < end);
      expect(
        cutLit(text, given as unknown as Parameters<typeof cutLit>[1])
          .map((piece) => piece.text)
          .join(''),
      ).toBe(text);
    }),
  );
});
