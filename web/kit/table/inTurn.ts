import { onScopeDispose, ref, type Ref } from 'vue';

const IN_A_FRAME = 2;
/** Newest last: what came onto the screen most recently is what is looked at. */
const waiting: (() => void)[] = [];
let isAsked = false;

function ask(): void {
  if (isAsked || !waiting.length) return;
  isAsked = true;
  requestAnimationFrame(() => {
    isAsked = false;
    for (const draw of waiting.splice(-IN_A_FRAME)) draw();
    ask();
  });
}

/**
 * Whether something costly may be drawn: at once where nothing moves, else a few in each frame, so that rows which fly past are
 * not held up by what nobody can press yet.
 */
export function useTurn(isMoving: () => boolean): Ref<boolean> {
  const mayDraw = ref(!isMoving());
  if (mayDraw.value) return mayDraw;
  const draw = (): void => void (mayDraw.value = true);
  waiting.push(draw);
  ask();
  onScopeDispose(() => {
    const at = waiting.indexOf(draw);
    if (at >= 0) waiting.splice(at, 1);
  });
  return mayDraw;
}
