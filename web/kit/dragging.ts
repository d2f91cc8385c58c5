import type Interact from 'interactjs';
import { onScopeDispose, watch, type Ref } from 'vue';

/** A finger that rests this long picks something up; one that moves before scrolls the page. */
const HOLD_MS = 250;
/** A press that slips by less than this many pixels is still a press. */
const LEAST_MOVE = 4;

interface Dragging {
  /** What can be picked up: a selector of elements within the root. */
  item: string;
  /** Where a press picks nothing up. */
  except?: string;
  /** @param over what is under the pointer beside the thing itself, topmost first */
  move?: (item: HTMLElement, over: readonly Element[]) => void;
  drop: (item: HTMLElement, over: readonly Element[]) => void;
}

type Interactable = ReturnType<typeof Interact>;
interface Start {
  target: Element;
  pointerType: string;
  clientX: number;
  clientY: number;
  interaction: {
    interacting: () => boolean;
    start: (action: { name: 'drag' }, target: Interactable, item: HTMLElement) => void;
  };
  currentTarget: HTMLElement;
}
interface Moved {
  target: HTMLElement;
  clientX: number;
  clientY: number;
  dx: number;
  dy: number;
}

/**
 * Things that are dragged by mouse, pen or finger. Every page that uses it offers the same by keyboard; a dragged thing
 * goes back to its place, and what the drop means is up to the page.
 * @param root the element all of it happens in
 */
export function useDragging(root: Ref<HTMLElement | null>, { item, except, move, drop }: Dragging): void {
  let interactable: Interactable | null = null;
  let carried: HTMLElement | null = null;
  let isGone = false;
  const below = ({ target, clientX, clientY }: Moved): Element[] =>
    document.elementsFromPoint(clientX, clientY).filter((element) => !target.contains(element));
  /** The page must not scroll under a finger that carries something. */
  const keepStill = (event: TouchEvent): void => {
    if (carried) event.preventDefault();
  };
  /** The release of a dragged link is no press of it. */
  const swallow = (event: Event): void => {
    event.preventDefault();
    event.stopPropagation();
  };
  const begin = (event: Start): void => {
    if (except && event.target.closest(except)) return;
    if (!event.interaction.interacting() && interactable)
      event.interaction.start({ name: 'drag' }, interactable, event.currentTarget);
  };
  /** A mouse may be far from where it was pressed with its first move, so moves are followed wherever they are. */
  function beginOnMove(down: Start): void {
    const follow = ({ clientX, clientY }: PointerEvent): void => {
      if (Math.hypot(clientX - down.clientX, clientY - down.clientY) < LEAST_MOVE) return;
      stop();
      begin(down);
    };
    const stop = (): void => {
      window.removeEventListener('pointermove', follow, { capture: true });
      window.removeEventListener('pointerup', stop, { capture: true });
    };
    window.addEventListener('pointermove', follow, { capture: true });
    window.addEventListener('pointerup', stop, { capture: true });
  }
  const at = { x: 0, y: 0 };
  /** A copy is carried, so that nothing that scrolls or clips hides it; the thing itself stays in its place. */
  function pickUp({ target }: Moved): void {
    const { left, top, width, height } = target.getBoundingClientRect();
    carried = target.cloneNode(true) as HTMLElement;
    carried.setAttribute('aria-hidden', 'true');
    carried.classList.add('carried');
    Object.assign(at, { x: left, y: top });
    Object.assign(carried.style, { width: `${width}px`, height: `${height}px`, left: '0', top: '0' });
    (target.closest('.v-application') ?? document.body).append(carried);
    target.classList.add('dragged');
  }
  function carry(event: Moved): void {
    at.x += event.dx;
    at.y += event.dy;
    if (carried) carried.style.transform = `translate(${at.x}px, ${at.y}px)`;
    move?.(event.target, below(event));
  }
  function putDown(event: Moved): void {
    carried?.remove();
    carried = null;
    event.target.classList.remove('dragged');
    window.addEventListener('click', swallow, { capture: true, once: true });
    setTimeout(() => window.removeEventListener('click', swallow, { capture: true }));
    drop(event.target, below(event));
  }

  async function attach(element: HTMLElement): Promise<void> {
    const { default: interact } = await import('interactjs');
    if (isGone || root.value !== element) return;
    element.addEventListener('touchmove', keepStill, { passive: false });
    interactable = interact(item, { context: element })
      .draggable({ manualStart: true, listeners: { start: pickUp, move: carry, end: putDown } })
      .pointerEvents({ holdDuration: HOLD_MS })
      .styleCursor(false)
      .on('down', (event: Start) => {
        if (event.pointerType !== 'touch') beginOnMove(event);
      })
      .on('hold', (event: Start) => {
        if (event.pointerType === 'touch') begin(event);
      });
    // What moves things by dragging is fetched after the page is shown; whoever drives it can see that it is there.
    element.dataset.draggable = 'ready';
  }
  function detach(element: HTMLElement | null): void {
    interactable?.unset();
    interactable = null;
    carried?.remove();
    element?.removeEventListener('touchmove', keepStill);
    delete element?.dataset.draggable;
  }
  watch(
    root,
    (element, old) => {
      detach(old ?? null);
      if (element) void attach(element);
    },
    { immediate: true, flush: 'post' },
  );
  onScopeDispose(() => {
    isGone = true;
    detach(root.value);
  });
}
