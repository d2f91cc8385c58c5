import { parseHTML } from 'linkedom';

/** A clock of the page that a test turns by hand. */
export const frames: FrameRequestCallback[] = [];
export const nextFrame = (): void => {
  for (const frame of frames.splice(0)) frame(0);
};

const stored = (): Storage => {
  const kept = new Map<string, string>();
  return {
    getItem: (key) => kept.get(key) ?? null,
    setItem: (key, value) => void kept.set(key, value),
    removeItem: (key) => void kept.delete(key),
    clear: () => kept.clear(),
    key: () => null,
    get length() {
      return kept.size;
    },
  };
};

const { window, document, Event, HTMLElement, HTMLInputElement, HTMLTextAreaElement, HTMLSelectElement } =
  parseHTML('<!doctype html><html><body></body></html>');
const went: string[] = [];
Object.assign(globalThis, {
  window,
  document,
  Event,
  HTMLElement,
  HTMLInputElement,
  HTMLTextAreaElement,
  HTMLSelectElement,
  localStorage: stored(),
  sessionStorage: stored(),
  location: { pathname: '/people', search: '', assign: (to: string) => void went.push(to) },
  requestAnimationFrame: (frame: FrameRequestCallback) => frames.push(frame),
  getComputedStyle: () => ({ getPropertyValue: (name: string) => ` ${name} ` }),
});
Object.defineProperty(globalThis, 'navigator', { value: { language: 'en-GB' }, configurable: true });

/** Where the page was sent by an address and not by the router. */
export const wentTo = went;

/** Shows other HTML. */
export const show = (html: string): void => void (document.body.innerHTML = html);
