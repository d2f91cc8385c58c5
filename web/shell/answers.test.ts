import { answerAt, forgetAnswers, keepAnswers } from './answers';

let count = 0;
const read = (): Promise<number> => Promise.resolve(++count);
beforeEach(() => {
  keepAnswers(false);
  keepAnswers(true);
  count = 0;
});
afterAll(() => keepAnswers(false));

it('asks once for one address, however many want to know', async () => {
  expect(await Promise.all([answerAt('/a', read), answerAt('/a', read), answerAt('/b', read)])).toEqual([
    1, 1, 2,
  ]);
  expect(await answerAt('/a', read)).toBe(1);
});

it('asks again after a change', async () => {
  await answerAt('/a', read);
  forgetAnswers();
  expect(await answerAt('/a', read)).toBe(2);
});

it('never answers with a read that began before the change', async () => {
  let settle: (value: number) => void = () => undefined;
  const slow = answerAt('/a', () => new Promise<number>((resolve) => (settle = resolve)));
  forgetAnswers();
  expect(await answerAt('/a', read)).toBe(1);
  settle(99);
  expect(await slow).toBe(99);
  expect(await answerAt('/a', read)).toBe(1);
});

it('keeps no failure, and nothing at all while changes are not heard of', async () => {
  await expect(answerAt('/a', () => Promise.reject(new Error('down')))).rejects.toThrow('down');
  expect(await answerAt('/a', read)).toBe(1);
  keepAnswers(false);
  expect([await answerAt('/a', read), await answerAt('/a', read)]).toEqual([2, 3]);
});
