import { createPinia, setActivePinia } from 'pinia';
import { useUndo } from './undo';

const answer = (status: number, body: object) => async () =>
  ({ ok: status < 400, status, json: async () => body }) as Response;

beforeEach(() => {
  jest.useFakeTimers();
  setActivePinia(createPinia());
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

it('says what was done for a while, and what went wrong until it is dismissed', async () => {
  const undo = useUndo();
  undo.tell({ text: 'Saved.', eventId: null });
  await jest.advanceTimersByTimeAsync(11_000);
  undo.tell({ text: 'Saved again.', eventId: null });
  await jest.advanceTimersByTimeAsync(11_000);
  expect(undo.told?.text).toBe('Saved again.');
  await jest.advanceTimersByTimeAsync(2000);
  expect(undo.told).toBeNull();
  undo.fail(new Error('Out of reach.'));
  await jest.advanceTimersByTimeAsync(60_000);
  expect(undo.told?.wrong).toBe(true);
  undo.dismiss();
  expect(undo.told).toBeNull();
});

it('takes back the event that it told of, once', async () => {
  const asked = jest.spyOn(globalThis, 'fetch').mockImplementation(answer(200, { undone: 'Merged Ann' }));
  const undo = useUndo();
  await undo.undo();
  expect(asked).not.toHaveBeenCalled();
  undo.tell({ text: 'Merged.', eventId: 'e1' });
  await undo.undo();
  expect(String(asked.mock.calls[0]?.[0])).toBe('/api/events/e1/undo');
  expect(undo.told).toEqual({ text: 'Undone: Merged Ann', eventId: null });
  await undo.undo();
  expect(asked).toHaveBeenCalledTimes(1);
});

it('says why something cannot be taken back any more', async () => {
  jest.spyOn(globalThis, 'fetch').mockImplementation(
    answer(409, {
      type: 'urn:emporikon:problem:cannot-undo',
      title: '',
      status: 409,
      detail: 'Something was built on this.',
    }),
  );
  const undo = useUndo();
  undo.tell({ text: 'Merged.', eventId: 'e1' });
  await undo.undo();
  expect(undo.told).toMatchObject({ text: 'Something was built on this.', eventId: null, wrong: true });
});

it('takes back what was done in several steps, newest first', async () => {
  const asked = jest
    .spyOn(globalThis, 'fetch')
    .mockImplementation(answer(200, { undone: 'Added the file a' }));
  const undo = useUndo();
  undo.tell({ text: 'Added 3 files.', eventId: 'e3', before: ['e1', 'e2'] });
  await undo.undo();
  expect(asked.mock.calls.map(([url]) => String(url))).toEqual(
    ['e3', 'e2', 'e1'].map((id) => `/api/events/${id}/undo`),
  );
  expect(undo.told).toEqual({ text: 'Undone: Added 3 files.', eventId: null });
});
