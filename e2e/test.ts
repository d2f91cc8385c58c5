import { expect, test as base, type Browser, type BrowserContext } from '@playwright/test';

export { expect };
export type { Browser, BrowserContext, FrameLocator, Page, Request, Response } from '@playwright/test';

let troubles: string[] = [];
let allowed: RegExp[] = [];
/** What the present test opened. */
let opened: BrowserContext[] = [];

/** What Chromium itself logs of an answer that is no 2xx; whether such an answer is one that may be is told apart below. */
const RESOURCE = /^Failed to load resource/;

/** Notes whatever goes wrong unseen in any page of a context: errors, what the page policy stopped, faults of the server. */
export function watch(context: BrowserContext): void {
  context.on('weberror', (error) =>
    troubles.push(`uncaught: ${error.error().stack ?? error.error().message}`),
  );
  context.on('console', (message) => {
    if (message.type() === 'error' && !RESOURCE.test(message.text()))
      troubles.push(`console of ${message.page()?.url() ?? 'a worker'}: ${message.text()}`);
  });
  context.on('response', (response) => {
    if (response.status() >= 500)
      troubles.push(`${response.status()} ${response.request().method()} ${response.url()}`);
  });
}

/** Says that something goes wrong in this test on purpose. */
export const allowTrouble = (pattern: RegExp): void => void allowed.push(pattern);

/** Every test fails on a console error, an uncaught error, a report of the page policy or any answer of 500 or above. */
export const test = base.extend<{ noTrouble: undefined }, { browser: Browser }>({
  browser: [
    async ({ browser }, use) => {
      const newContext = browser.newContext.bind(browser);
      browser.newContext = async (options) => {
        const context = await newContext(options);
        watch(context);
        opened.push(context);
        return context;
      };
      await use(browser);
      browser.newContext = newContext;
    },
    { scope: 'worker' },
  ],
  noTrouble: [
    // eslint-disable-next-line no-empty-pattern -- Playwright reads the names of what a fixture uses from this pattern
    async ({}, use) => {
      [troubles, allowed, opened] = [[], [], []];
      await use(undefined);
      // Pages that stay open would read again with every change that later tests make.
      for (const context of opened) await context.close();
      expect(troubles.filter((trouble) => !allowed.some((pattern) => pattern.test(trouble)))).toEqual([]);
    },
    { auto: true },
  ],
});
