import { onMounted, onScopeDispose, ref, type Ref } from 'vue';

/** Rows beyond the edge of the screen that are kept, so that scrolling meets them ready. */
const SPARE_ROWS = 6;
const STEP = 4;

/** Looks where an element stands now, and gives what is to be done about it after all others have looked too. */
type Look = () => () => void;
const looks = new Set<Look>();
let waiting = 0;

/** First everybody looks, then everybody changes: looking after a change would make the browser lay the page out again. */
function lookAll(): void {
  waiting = 0;
  for (const change of [...looks].map((look) => look())) change();
}
const ask = (): void => {
  waiting ||= requestAnimationFrame(lookAll);
};

function listen(look: Look): void {
  if (!looks.size) {
    document.addEventListener('scroll', ask, { capture: true, passive: true });
    window.addEventListener('resize', ask);
  }
  looks.add(look);
}

function leave(look: Look): void {
  looks.delete(look);
  if (looks.size) return;
  document.removeEventListener('scroll', ask, { capture: true });
  window.removeEventListener('resize', ask);
}

/**
 * Which rows of a tall element are on the screen, or nearly; so that of thousands only a few dozen are drawn.
 * @param rows how many it has
 * @param rowHeight in CSS pixels
 * @returns the first and last row, which change in steps
 */
export function useVisibleRows(
  element: Ref<HTMLElement | null>,
  rows: Ref<number>,
  rowHeight: number,
): Ref<{ first: number; last: number }> {
  const range = ref({ first: 0, last: 24 });
  const within = (row: number): number => Math.max(-1, Math.min(rows.value, row));
  const look: Look = () => {
    const top = element.value?.getBoundingClientRect().top ?? 0;
    const first = within(Math.floor((-top / rowHeight - SPARE_ROWS) / STEP) * STEP);
    const last = within(Math.ceil(((window.innerHeight - top) / rowHeight + SPARE_ROWS) / STEP) * STEP);
    return () => {
      if (first !== range.value.first || last !== range.value.last) range.value = { first, last };
    };
  };
  onMounted(() => {
    listen(look);
    ask();
  });
  onScopeDispose(() => leave(look));
  return range;
}
