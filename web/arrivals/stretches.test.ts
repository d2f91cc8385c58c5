import fc from 'fast-check';
import { cutText, type Mark } from './stretches';

const TEXT = 'Ines Duarte, buyer at Padaria Sol, needs eight bikes';
const mark = (id: string, start: number, end: number, over: Partial<Mark> = {}): Mark => ({
  id,
  kind: 'claim',
  span: { part: 'text', start, end },
  ...over,
});
const marks = fc.array(
  fc.record({
    start: fc.integer({ min: -3, max: TEXT.length + 3 }),
    end: fc.integer({ min: -3, max: TEXT.length + 3 }),
  }),
  { maxLength: 9 },
);

it('loses no letter and doubles none, whatever was read where', () => {
  fc.assert(
    fc.property(marks, (spans) => {
      const cut = cutText(
        TEXT,
        spans.filter(({ start }) => start >= 0).map(({ start, end }, at) => mark(String(at), start, end)),
        'text',
      );
      expect(cut.map((stretch) => stretch.text).join('')).toBe(TEXT);
      expect(cut.every((stretch) => stretch.text.length > 0)).toBe(true);
    }),
  );
});

it('marks exactly what each reading covers, and opens it once', () => {
  fc.assert(
    fc.property(marks, (spans) => {
      const good = spans.filter(({ start, end }) => start >= 0 && start < end && end <= TEXT.length);
      const cut = cutText(
        TEXT,
        good.map(({ start, end }, at) => mark(String(at), start, end)),
        'text',
      );
      good.forEach(({ start, end }, at) => {
        const mine = cut.filter((stretch) => stretch.ids.includes(String(at)));
        expect(mine.map((stretch) => stretch.text).join('')).toBe(TEXT.slice(start, end));
        expect(mine[0]?.opens).toBe(true);
      });
    }),
  );
});

it('of readings over each other the shortest answers, and readings of another part are left out', () => {
  const cut = cutText(
    TEXT,
    [
      mark('sentence', 0, TEXT.length, { kind: 'intent' }),
      mark('name', 0, 11),
      mark('subject', 0, 4, { span: { part: 'subject', start: 0, end: 4 } }),
      mark('nowhere', 0, 0, { span: null }),
    ],
    'text',
  );
  expect(cut.map(({ text, ids, kind }) => [text, ids, kind])).toEqual([
    ['Ines Duarte', ['name', 'sentence'], 'claim'],
    [TEXT.slice(11), ['sentence'], 'intent'],
  ]);
});
