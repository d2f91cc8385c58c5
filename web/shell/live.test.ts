import { effectScope, nextTick, type EffectScope } from 'vue';
import { ApiProblem } from './api';
import { openLive, useFetched } from './live';
import type { LiveNotice } from './liveStream';
import { usePaged } from './usePaged';

let hear: (notice: LiveNotice) => void = () => undefined;
jest.mock('./liveStream', () => ({
  shareStream: (_url: string, listener: (notice: LiveNotice) => void) => {
    hear = listener;
    return () => undefined;
  },
}));

const ID = '11111111-1111-4111-8111-111111111111';
const OTHER = '22222222-2222-4222-8222-222222222222';
let scope: EffectScope;
beforeAll(() => openLive(() => undefined));
beforeEach(() => {
  jest.useFakeTimers();
  // Vue says that `inject` is called outside a component; there is none in these tests.
  jest.spyOn(console, 'warn').mockImplementation(() => undefined);
  scope = effectScope();
});
afterEach(() => {
  scope.stop();
  jest.useRealTimers();
  jest.restoreAllMocks();
});

const inScope = <T>(run: () => T): T => scope.run(run) as T;
/** Lets what was asked be answered and what was answered be shown. */
const settle = async (): Promise<void> => {
  await jest.advanceTimersByTimeAsync(100);
  await nextTick();
};
const gone = new ApiProblem({
  type: 'urn:emporikon:problem:not-found',
  title: '',
  status: 404,
  detail: 'Not here.',
});
const touch = (table: string, id: string, of?: string[]): void =>
  hear({ touched: [{ table, id, ...(of ? { of } : {}) }] });

describe('data that keeps itself current', () => {
  it('reads once, and again for a change of what it shows, and of nothing else', async () => {
    const read = jest.fn(async () => ({ id: ID, name: 'Kiln Street' }));
    const { data } = inScope(() => useFetched(read, ['companies'], () => [ID]));
    await settle();
    expect([data.value?.name, read.mock.calls.length]).toEqual(['Kiln Street', 1]);
    touch('companies', OTHER, []);
    touch('people', ID, []);
    await settle();
    expect(read).toHaveBeenCalledTimes(1);
    touch('companies', ID, []);
    await settle();
    expect(read).toHaveBeenCalledTimes(2);
    hear({ resync: true });
    await settle();
    expect(read).toHaveBeenCalledTimes(3);
  });

  it('reads once for many changes that come at the same moment, and no more once its page is left', async () => {
    const read = jest.fn(async () => ({ id: ID }));
    inScope(() => useFetched(read, ['companies']));
    await settle();
    for (let n = 0; n < 20; n++) touch('companies', OTHER);
    await settle();
    expect(read).toHaveBeenCalledTimes(2);
    scope.stop();
    touch('companies', OTHER);
    await settle();
    expect(read).toHaveBeenCalledTimes(2);
  });

  it('an older answer that comes late does not replace a newer one', async () => {
    const answers: ((value: { n: number }) => void)[] = [];
    const { data, load } = inScope(() =>
      useFetched(() => new Promise<{ n: number }>((resolve) => answers.push(resolve)), []),
    );
    void load();
    answers[1]?.({ n: 2 });
    await settle();
    answers[0]?.({ n: 1 });
    await settle();
    expect(data.value).toEqual({ n: 2 });
  });

  it('lets go of what is not there any more, and keeps what it has where the server is out of reach', async () => {
    const answers: (() => Promise<{ id: string }>)[] = [
      async () => ({ id: ID }),
      async () => Promise.reject(new Error('out of reach')),
      async () => Promise.reject(gone),
    ];
    const { data, error, isGone, load } = inScope(() =>
      useFetched(() => answers.shift()?.() ?? Promise.reject(gone), []),
    );
    await settle();
    await load();
    expect([data.value?.id, isGone.value, error.value !== '']).toEqual([ID, false, true]);
    await load();
    expect([data.value, isGone.value, error.value]).toEqual([null, true, 'Not here.']);
  });
});

describe('a list that grows by pages', () => {
  const all = Array.from({ length: 7 }, (_, n) => ({ id: n }));
  const pages = (items: readonly { id: number }[]) =>
    jest.fn(async (cursor: string | undefined) => {
      const from = Number(cursor ?? 0);
      return { items: items.slice(from, from + 3), next: from + 3 < items.length ? String(from + 3) : null };
    });

  it('reads on from where it ended, and when something changes as many pages as were read', async () => {
    const read = pages(all);
    const { items, hasMore, more } = inScope(() => usePaged(read, ['people']));
    await settle();
    expect([items.value?.length, hasMore.value]).toEqual([3, true]);
    await more();
    expect(items.value?.map(({ id }) => id)).toEqual([0, 1, 2, 3, 4, 5]);
    touch('people', OTHER);
    await settle();
    expect(items.value?.map(({ id }) => id)).toEqual([0, 1, 2, 3, 4, 5]);
    expect(read.mock.calls.map(([cursor]) => cursor)).toEqual([undefined, '3', undefined, '3']);
    await more();
    expect([items.value?.length, hasMore.value]).toEqual([7, false]);
    await more();
    expect(read).toHaveBeenCalledTimes(5);
  });

  it('begins anew when something else is asked for', async () => {
    const read = pages(all);
    const { items, more, reload } = inScope(() => usePaged(read, []));
    await settle();
    await more();
    await reload();
    await settle();
    expect(items.value?.length).toBe(3);
  });
});
