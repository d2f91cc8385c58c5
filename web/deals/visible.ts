import { onMounted, onScopeDispose, ref, type Ref } from 'vue';

/** Rows beyond the edge of the screen that are kept, so that scrolling meets them ready. */
const SPARE_ROWS = 6;
const STEP = 4;

/**
 * Which rows of a tall element are on the screen, or nearly; so that of thousands only a few dozen are drawn.
 * @param rowHeight in CSS pixels
 * @returns the first and last row, which change in steps
 */
export function useVisibleRows(
  element: Ref<HTMLElement | null>,
  rowHeight: number,
): Ref<{ first: number; last: number }> {
  const range = ref({ first: 0, last: 24 });
  let waiting = 0;
  const measure = (): void => {
    waiting = 0;
    const top = element.value?.getBoundingClientRect().top ?? 0;
    const first = Math.floor((-top / rowHeight - SPARE_ROWS) / STEP) * STEP;
    const last = Math.ceil(((window.innerHeight - top) / rowHeight + SPARE_ROWS) / STEP) * STEP;
    if (first !== range.value.first || last !== range.value.last) range.value = { first, last };
  };
  const ask = (): void => {
    if (!waiting) waiting = requestAnimationFrame(measure);
  };
  onMounted(measure);
  document.addEventListener('scroll', ask, { capture: true, passive: true });
  window.addEventListener('resize', ask);
  onScopeDispose(() => {
    document.removeEventListener('scroll', ask, { capture: true });
    window.removeEventListener('resize', ask);
    cancelAnimationFrame(waiting);
  });
  return range;
}
