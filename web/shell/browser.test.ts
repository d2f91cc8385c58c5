import '../testing/browser';
import { effectScope, nextTick, type EffectScope } from 'vue';
import { useMedia, usePageKeys, useStored } from './browser';

let scope: EffectScope;
beforeEach(() => {
  localStorage.clear();
  scope = effectScope();
});
afterEach(() => scope.stop());

describe('a value kept in the browser', () => {
  it('is there again for the next page', async () => {
    const value = scope.run(() => useStored('k', { open: false }))!;
    value.value = { open: true };
    await nextTick();
    expect(scope.run(() => useStored('k', { open: false }))!.value).toEqual({ open: true });
  });

  it('falls back where what is kept cannot be read, or storage is closed', async () => {
    localStorage.setItem('k', '{broken');
    expect(scope.run(() => useStored('k', 7))!.value).toBe(7);
    const closed = jest.spyOn(localStorage, 'getItem').mockImplementation(() => {
      throw new Error('closed');
    });
    jest.spyOn(localStorage, 'setItem').mockImplementation(() => {
      throw new Error('closed');
    });
    const value = scope.run(() => useStored('k', 7))!;
    value.value = 8;
    await nextTick();
    expect(value.value).toBe(8);
    closed.mockRestore();
    jest.restoreAllMocks();
  });
});

it('a media query is followed as long as the component lives', () => {
  const listeners = new Set<() => void>();
  const media = {
    matches: false,
    addEventListener: (_: string, listen: () => void) => listeners.add(listen),
    removeEventListener: (_: string, listen: () => void) => listeners.delete(listen),
  };
  Object.assign(globalThis, { matchMedia: () => media });
  const matches = scope.run(() => useMedia('(min-width: 600px)'))!;
  media.matches = true;
  listeners.forEach((listen) => listen());
  expect(matches.value).toBe(true);
  scope.stop();
  expect(listeners.size).toBe(0);
});

describe('keys of a page', () => {
  const press = (closest: string | null, defaultPrevented = false): Event =>
    Object.assign(new Event('keydown'), {
      target: { closest: () => closest },
      defaultPrevented,
    });

  it('are heard while the component lives, and left to fields, dialogs and whoever took them', () => {
    const heard: string[] = [];
    const listeners: ((event: Event) => void)[] = [];
    jest
      .spyOn(window, 'addEventListener')
      .mockImplementation(
        ((_: string, listen: (event: Event) => void) => void listeners.push(listen)) as never,
      );
    const remove = jest.spyOn(window, 'removeEventListener').mockImplementation(() => undefined);
    scope.run(() => usePageKeys(() => heard.push('heard')));
    for (const event of [press(null), press('input'), press('[role="dialog"]')])
      listeners.forEach((listen) => listen(event));
    expect(heard).toEqual(['heard']);
    scope.stop();
    expect(remove).toHaveBeenCalledTimes(1);
    jest.restoreAllMocks();
  });
});
