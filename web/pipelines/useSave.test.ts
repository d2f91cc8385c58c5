import { openPage, type Page } from '../testing/page';
import { ApiProblem } from '../shell/api';
import { useUndo } from '../shell/undo';
import { useSave } from './useSave';

let page: Page;
let loads = 0;
beforeEach(() => {
  jest.useFakeTimers();
  page = openPage();
  loads = 0;
});
afterEach(() => {
  jest.useRealTimers();
  page.close();
});
const save = () =>
  page.run(() =>
    useSave(() => {
      loads++;
      return Promise.resolve();
    }),
  );
const problem = (type: string): ApiProblem =>
  new ApiProblem({
    type: `urn:emporikon:problem:${type}`,
    title: type,
    status: 409,
    detail: `It is ${type}.`,
  });

it('says what was done, with its undo, and reads anew', async () => {
  expect(await save()('The stage is added.', () => Promise.resolve({ eventId: 'e1' }))).toBe(true);
  const undo = page.run(() => useUndo());
  expect([undo.told?.text, undo.told?.eventId, loads]).toEqual(['The stage is added.', 'e1', 1]);
});

it('gives back the clash for whoever offers the choice, and reads what stands there now', async () => {
  const stale = problem('stale');
  expect(await save()('Saved.', () => Promise.reject(stale))).toBe(stale);
  expect(loads).toBe(1);
});

it('any other refusal is said and is not a clash', async () => {
  expect(await save()('Saved.', () => Promise.reject(problem('invalid')))).toBe(false);
  expect(await save()('Saved.', () => Promise.reject(new Error('boom')))).toBe(false);
  expect(loads).toBe(2);
});
