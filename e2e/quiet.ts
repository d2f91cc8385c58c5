import { expect, type Page, type Request } from './test';

const POLL_MS = 40;
/** For how many looks in a row nothing may be under way. */
const LOOKS = 3;
const underWay = new WeakMap<Page, Set<Request>>();

/** Notes what a page asks for, so that `whenQuiet` can tell when it has everything; called before it goes anywhere. */
export function noteRequests(page: Page): void {
  const requests = new Set<Request>();
  underWay.set(page, requests);
  const isAwaited = (request: Request): boolean => request.resourceType() !== 'eventsource';
  page.on('request', (request) => isAwaited(request) && requests.add(request));
  const forget = (request: Request): void => void requests.delete(request);
  page.on('requestfinished', forget);
  page.on('requestfailed', forget);
}

/** Waits until a page has its heading, its answers and its fonts, and nothing of it moves any more. */
export async function whenQuiet(page: Page): Promise<void> {
  await expect(page.locator('h1, h2').first()).toBeVisible();
  await expect(page.locator('.ghost')).toHaveCount(0);
  const requests = underWay.get(page);
  if (!requests) throw new Error('noteRequests was not called for this page');
  let quiet = 0;
  await expect
    .poll(() => (quiet = requests.size ? 0 : quiet + 1), { intervals: [POLL_MS] })
    .toBeGreaterThanOrEqual(LOOKS);
  await page.evaluate(async () => {
    await document.fonts.ready;
    const isEnding = (animation: Animation): boolean =>
      Number.isFinite(animation.effect?.getComputedTiming().endTime);
    await Promise.allSettled(
      document
        .getAnimations()
        .filter(isEnding)
        .map((animation) => animation.finished),
    );
    await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  });
}
