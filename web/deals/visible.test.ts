import { nextFrame } from '../testing/browser';
import { createApp, effectScope, ref } from 'vue';
import { useVisibleRows } from './visible';

const mounted: (() => void)[] = [];
jest.mock('vue', () => ({
  ...jest.requireActual<object>('vue'),
  onMounted: (run: () => void) => void mounted.push(run),
}));

let top = 0;
const element = ref({ getBoundingClientRect: () => ({ top }) } as HTMLElement);
beforeEach(() => Object.assign(window, { innerHeight: 800 }));

function open(rows: number) {
  const scope = effectScope();
  const range = createApp({}).runWithContext(
    () => scope.run(() => useVisibleRows(element, ref(rows), 36)) as ReturnType<typeof useVisibleRows>,
  );
  for (const mount of mounted.splice(0)) mount();
  nextFrame();
  const scrollTo = (to: number): void => {
    top = -to;
    document.dispatchEvent(new Event('scroll'));
    nextFrame();
  };
  return { range, scrollTo, close: () => scope.stop() };
}

it('of thousands of rows only those on the screen and a few beside them are drawn', () => {
  const { range, scrollTo, close } = open(10_000);
  for (const at of [0, 500, 5000, 300_000, 359_000]) {
    scrollTo(at);
    const { first, last } = range.value;
    expect(first).toBeLessThanOrEqual(Math.max(-1, Math.floor(at / 36)));
    expect(last).toBeGreaterThanOrEqual(Math.min(10_000, Math.ceil((at + 800) / 36)));
    expect(last - first).toBeLessThan(50);
  }
  close();
});

it('does not redraw for every pixel', () => {
  const { range, scrollTo, close } = open(10_000);
  scrollTo(2000);
  const before = range.value;
  scrollTo(2004);
  expect(range.value).toBe(before);
  close();
});

it('a lane that is empty or off the screen draws nothing, and one that is gone is not looked at', () => {
  const { range, scrollTo, close } = open(0);
  scrollTo(0);
  expect(range.value.last).toBe(0);
  close();
  const before = range.value;
  scrollTo(90_000);
  expect(range.value).toBe(before);
});
