import type { Directive } from 'vue';

const FIELDS = 'input:not([type=hidden]), textarea';
/** An overlay may keep its content hidden for some frames while it opens. */
const MOST_FRAMES = 30;

/**
 * Puts the focus on a control, or on the field within it, as soon as it is there: `v-focus`, or `v-focus="condition"`.
 * Vuetify's own `autofocus` waits until the field is seen and some 50 ms more, and then takes the focus from the field
 * somebody has gone on to in the meantime.
 */
export const vFocus: Directive<HTMLElement, boolean | undefined> = {
  mounted(element, { value }) {
    if (value === false) return;
    const target = element.matches(FIELDS)
      ? element
      : (element.querySelector<HTMLElement>(FIELDS) ?? element);
    const before = document.activeElement;
    let frames = 0;
    const take = (): void => {
      const active = document.activeElement;
      const isElsewhere = active !== before && active !== document.body && !active?.contains(target);
      if (!target.isConnected || isElsewhere) return;
      target.focus();
      if (document.activeElement !== target && ++frames < MOST_FRAMES) requestAnimationFrame(take);
    };
    take();
  },
};
