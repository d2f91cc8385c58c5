import type { Page } from '@playwright/test';

export interface Effort {
  clicks: number;
  keys: number;
  points: number;
  hands: number;
  /** Operators without M, in seconds. */
  seconds: number;
}

/** Operators of the Keystroke-Level Model (Card, Moran & Newell, CACM 23(7), 1980), in seconds. */
const K = 0.28;
const P = 1.1;
const B = 0.1;
const H = 0.4;

/**
 * Counts what a person does in the real page while a flow runs: pressed keys, mouse buttons (two B a click), moves of the
 * pointer to a new target, and changes of the hand between mouse and keyboard. A flow begins with the hand on the mouse.
 */
export async function meter(page: Page): Promise<() => Promise<Effort>> {
  const counts = { clicks: 0, keys: 0, points: 0, hands: 0 };
  let hand: 'mouse' | 'keys' = 'mouse';
  let target = '';
  await page.exposeFunction('countEffort', (kind: 'click' | 'key', where: string) => {
    const next = kind === 'key' ? 'keys' : 'mouse';
    if (next !== hand) counts.hands++;
    hand = next;
    if (kind === 'key') counts.keys++;
    else {
      counts.clicks++;
      if (where !== target) counts.points++;
      target = where;
    }
  });
  const listen = (): void => {
    const count = (globalThis as unknown as { countEffort(kind: string, where: string): void }).countEffort;
    document.addEventListener('keydown', (event) => (event.repeat ? undefined : count('key', '')), true);
    document.addEventListener(
      'mousedown',
      (event) => count('click', `${Math.round(event.clientX)},${Math.round(event.clientY)}`),
      true,
    );
  };
  await page.addInitScript(listen);
  await page.evaluate(listen);
  return async () => {
    await page.waitForTimeout(50);
    const seconds = counts.keys * K + counts.points * P + counts.clicks * 2 * B + counts.hands * H;
    return { ...counts, seconds: Math.round(seconds * 100) / 100 };
  };
}

/**
 * Counts what a test itself does with the keyboard, for a sheet in a frame of another origin, which the page's own
 * listeners do not hear. It begins with the hand on the mouse. A capital, or a sign above a digit, costs the shift key.
 */
export class Meter {
  private keys = 0;

  constructor(private readonly page: Page) {}

  /** One key or several at once: `Control+Enter` are two. */
  async press(combination: string): Promise<void> {
    this.keys += combination.split('+').length;
    await this.page.keyboard.press(combination);
  }

  async type(words: string): Promise<void> {
    for (const char of words) this.keys += /[A-Z+"£$%&*()?!:]/.test(char) ? 2 : 1;
    await this.page.keyboard.type(words);
  }

  get seconds(): number {
    return this.keys * K + H;
  }
}
