import { letterText } from './plainText';

it('keeps paragraphs, lists, quotes and where links lead', () => {
  expect(
    letterText(
      '<p>Dear Ana,</p><p>See <a href="https://w.example/q">the quote</a> or <a href="https://w.example">https://w.example</a>:</p><ul><li>two bikes</li><li>one trailer</li></ul><blockquote><p>Hello<br>Pell</p></blockquote>',
    ),
  ).toBe(
    'Dear Ana,\n\nSee the quote <https://w.example/q> or https://w.example:\n\n- two bikes\n- one trailer\n\n> Hello\n> Pell',
  );
});

it('breaks no line behind its width, and no word', () => {
  const text = letterText(`<p>${'bike '.repeat(60)}</p>`);
  expect(Math.max(...text.split('\n').map((line) => line.length))).toBeLessThanOrEqual(76);
  expect(text.match(/bike/g)).toHaveLength(60);
});

it('is through with what is nested very deeply', () => {
  expect(letterText(`${'<blockquote>'.repeat(5000)}deep${'</blockquote>'.repeat(5000)}`).length).toBeLessThan(
    20_000,
  );
});
