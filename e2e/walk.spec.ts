import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import AxeBuilder from '@axe-core/playwright';
import { signIn } from './pages';
import { expect, test, type Page } from './test';

const sourceOf = (file: string): string =>
  readFileSync(join(import.meta.dirname, '../web/shell', file), 'utf8');
/** Every address of the router, read from it, so that a new page is walked to without being listed here. */
const PATHS = [
  ...[...sourceOf('router.ts').matchAll(/path: '([^']+)'/g)].map(([, path = '']) => path),
  ...[...sourceOf('settingsRoutes.ts').matchAll(/settings\(\s*'([^']+)'/g)].map(
    ([, path = '']) => `/settings/${path}`,
  ),
].filter((path) => path !== '/' && path !== '/sign-in' && !path.includes('*'));

/** One record that each address with an id can show. */
async function idsOf(page: Page): Promise<Record<string, string>> {
  const first = async (path: string): Promise<string> => {
    const response = await page.request.get(path);
    expect(response.status(), path).toBe(200);
    const { items } = (await response.json()) as { items: { id: string }[] };
    return items[0]?.id ?? '';
  };
  const imported = await page.request.post('/api/imports?name=walk.csv', {
    headers: { 'content-type': 'text/csv' },
    data: 'Name,Email\nWalk Walker,walk@walker.example\n',
  });
  return {
    arrivals: await first('/api/captures'),
    leads: await first('/api/leads'),
    people: await first('/api/people'),
    companies: await first('/api/companies'),
    deals: await first('/api/deals'),
    calls: await first('/api/calls'),
    forms: await first('/api/forms'),
    imports: ((await imported.json()) as { id: string }).id,
  };
}

const SHARED_BY_ALL = ['/settings/profile', '/settings/pipelines', '/settings/fit'];
/** Settings are walked by the admin, who sees the most of them; a rep looks into those that differ for them. */
const isWalkedBy = (path: string, who: string): boolean =>
  who === 'joss'
    ? path.startsWith('/settings') || path === '/arrivals/:id?'
    : !path.startsWith('/settings') || SHARED_BY_ALL.includes(path);

const addressOf = (path: string, ids: Record<string, string>): string =>
  path.replace(/:id\??/, ids[path.split('/')[1] ?? ''] ?? '');

/** What is wider than the window, and what is cut though nothing says so. */
const misfits = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const { scrollWidth, clientWidth } = document.documentElement;
    if (scrollWidth > clientWidth) found.push(`the page is ${scrollWidth} wide in ${clientWidth}`);
    for (const label of document.querySelectorAll<HTMLElement>('button, .cap, h1, h2, th, label > span')) {
      if (!label.checkVisibility() || !label.textContent?.trim() || label.clientWidth < 4) continue;
      const style = getComputedStyle(label);
      const isCut =
        style.overflowX === 'hidden' &&
        style.textOverflow !== 'ellipsis' &&
        label.scrollWidth > label.clientWidth + 1;
      if (isCut) found.push(`cut: ${label.textContent.trim().slice(0, 40)}`);
    }
    return found;
  });

/** What a finger has to hit, and is lower than it. A link within a line reaches above and below it. */
const tooSmall = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const FINGER = 44;
    const found: string[] = [];
    // A source mark, and the cross of a tag, have their room around them; the span of a message that was read is a part of its line.
    const all = 'main :is(a, button:not(:disabled), .v-field):not(.mark, .open, .v-chip__close)';
    for (const control of document.querySelectorAll<HTMLElement>(all)) {
      if (!control.checkVisibility({ visibilityProperty: true })) continue;
      const { height } = control.getBoundingClientRect();
      if (height && height < FINGER - 0.5)
        found.push(
          `${Math.round(height)} high: ${(control.textContent || control.className).trim().slice(0, 40)}`,
        );
    }
    return found;
  });

async function settle(page: Page): Promise<void> {
  await page.waitForLoadState('domcontentloaded');
  await expect(page.locator('h1, h2').first()).toBeVisible();
  await expect(page.locator('.ghost')).toHaveCount(0);
}

/** Two of these run at once, over a growing number of pages: no bound of theirs on the pages' speed. */
const WALK_MS = 600_000;

const WINDOWS = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
];

/** Between the themes only colours differ, so that in the dark only the contrast is looked at, by one of them. */
const WALKS = [
  { who: 'pell', colorScheme: 'light' },
  { who: 'mara', colorScheme: 'light' },
  { who: 'joss', colorScheme: 'light' },
  { who: 'pell', colorScheme: 'dark' },
] as const;

test('no page is wider than a tablet, or than a phone on its side', async ({ browser }) => {
  test.setTimeout(WALK_MS);
  const wrong: string[] = [];
  for (const viewport of [
    { width: 768, height: 1024 },
    { width: 844, height: 390 },
  ]) {
    const page = await signIn(browser, 'joss', { viewport });
    const ids = await idsOf(page);
    for (const path of PATHS.filter((one) => one !== '/calls/:id' || ids.calls)) {
      const address = addressOf(path, ids);
      await page.goto(address);
      await settle(page);
      wrong.push(...(await misfits(page)).map((what) => `${viewport.width}: ${address}: ${what}`));
    }
  }
  expect(wrong).toEqual([]);
});

for (const viewport of WINDOWS)
  for (const { who, colorScheme } of WALKS) {
    // The wide pages are looked at in the dark one by one, in looks.
    if (colorScheme === 'dark' && viewport.width > 700) continue;
    test(`a walk through every page as ${who}, ${viewport.width} wide, ${colorScheme}`, async ({
      browser,
    }) => {
      test.setTimeout(WALK_MS);
      const isMobile = viewport.width < 700;
      const page = await signIn(browser, who, { viewport, colorScheme, isMobile });
      const ids = await idsOf(page);
      const wrong: string[] = [];
      // Calls are everybody's own; the others are there for all.
      expect(Object.keys(ids).filter((kind) => !ids[kind] && kind !== 'calls')).toEqual([]);
      for (const path of PATHS.filter((one) => isWalkedBy(one, who))) {
        if (path === '/calls/:id' && !ids.calls) continue;
        const address = addressOf(path, ids);
        await page.goto(address);
        await settle(page);
        const seen = [...(await misfits(page)), ...(isMobile ? await tooSmall(page) : [])];
        wrong.push(...seen.map((what) => `${address}: ${what}`));
        // The looks are the same for everybody, and the admin sees most of the settings.
        if (who !== 'mara') {
          const axe = new AxeBuilder({ page }).exclude('iframe').setLegacyMode();
          if (colorScheme === 'dark') axe.withRules(['color-contrast']);
          const { violations } = await axe.analyze();
          wrong.push(
            ...violations.map(
              (violation) => `${address}: ${violation.id} at ${violation.nodes[0]?.target.join(' ') ?? ''}`,
            ),
          );
        }
      }
      expect(wrong).toEqual([]);
      await page.context().close();
    });
  }
