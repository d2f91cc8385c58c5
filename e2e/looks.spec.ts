import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { signIn, urlOf } from './pages';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

interface Listed {
  items: { id: string }[];
}

async function views(page: Page): Promise<string[]> {
  const first = async (path: string): Promise<string> =>
    ((await (await page.request.get(path)).json()) as Listed).items[0]?.id ?? '';
  await page.request.post('/api/captures?url=https%3A%2F%2Frollcall.example%2Fpeople%2Fgwen', {
    headers: { 'content-type': 'text/html' },
    data: `<h1>Gwen Framed</h1><h2>Buyer at Framed Bakery</h2><p>${Date.now()}</p>`,
  });
  const deals = (await (await page.request.get('/api/deals')).json()) as { deals: { id: string }[] };
  return [
    '/arrivals',
    '/round',
    '/leads',
    `/leads/${await first('/api/leads')}`,
    '/people',
    `/people/${await first('/api/people')}`,
    '/companies',
    `/companies/${await first('/api/companies')}`,
    '/deals',
    `/deals/${deals.deals[0]?.id ?? ''}`,
    '/settings',
    '/calls',
    '/calls/new',
    '/imports',
    '/forms',
    `/forms/${await first('/api/forms')}`,
    '/nowhere',
  ];
}

for (const colorScheme of ['light', 'dark'] as const) {
  test(`axe finds nothing on any view, ${colorScheme}`, async ({ browser }) => {
    test.setTimeout(120_000);
    const page = await signIn(browser, 'mara', { colorScheme });
    const found: string[] = [];
    for (const path of await views(page)) {
      await page.goto(path);
      await page.locator('h1, h2').first().waitFor();
      await page.waitForTimeout(400);
      const { violations } = await new AxeBuilder({ page })
        .withTags(TAGS)
        // What stands in the frame is theirs, and no script runs in it, not even the one that would look.
        .exclude('iframe')
        .analyze();
      for (const one of violations)
        found.push(
          `${path} ${one.id}: ${one.nodes
            .map((node) => node.target.join(' '))
            .slice(0, 3)
            .join('; ')}`,
        );
    }
    expect(found).toEqual([]);
    const inDialog = async (): Promise<string[]> => {
      await expect(page.getByRole('dialog')).toBeVisible();
      await expect(page.getByRole('dialog').getByRole('heading').first()).toHaveCSS(
        'font-family',
        /Literata/,
      );
      const { violations } = await new AxeBuilder({ page }).include('[role=dialog]').analyze();
      return violations.map((one) => one.id);
    };
    await page.goto('/arrivals');
    await page.getByRole('button', { name: 'Capture' }).click();
    expect(await inDialog()).toEqual([]);
    const hits = (await (await page.request.get('/api/search?q=duarte')).json()) as Listed;
    await page.goto(`/people/${hits.items[0]?.id ?? ''}`);
    await page.getByRole('button', { name: /^Where Mobile comes from/ }).click();
    expect(await inDialog()).toEqual([]);
    await page.getByRole('button', { name: 'Close' }).click();
    await page.getByLabel('Write what happened or what comes next').fill('call Thursday 11am, budget 48k');
    await expect(page.locator('.light .lit').first()).toHaveText('call');
    expect(
      (await new AxeBuilder({ page }).include('.composer').analyze()).violations.map((one) => one.id),
    ).toEqual([]);
  });
}

test('the sign-in page has no violation either', async ({ page }) => {
  await page.goto(`${process.env.E2E_URL ?? ''}/sign-in`);
  await page.getByLabel('Email').waitFor();
  expect((await new AxeBuilder({ page }).analyze()).violations.map((one) => one.id)).toEqual([]);
});

test('the first load of the signed-in app is under 300 kB of gzipped JavaScript', async ({ browser }) => {
  const kept = await (await signIn(browser)).context().storageState();
  const page = await (await browser.newContext({ storageState: kept, baseURL: urlOf() })).newPage();
  const sizes: Promise<number>[] = [];
  page.on('response', (response) => {
    if (response.url().endsWith('.js')) sizes.push(response.body().then((body) => gzipSync(body).length));
  });
  await page.goto('/arrivals');
  await expect(page.getByRole('heading', { name: 'What we read' })).toBeVisible();
  await page.waitForTimeout(500);
  const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  console.log(`first load: ${Math.round(bytes / 1000)} kB of gzipped JavaScript`);
  expect(bytes).toBeGreaterThan(20_000);
  expect(bytes).toBeLessThan(300_000);
});

test('nothing shifts after the data has arrived', async ({ browser }) => {
  const page = await signIn(browser);
  for (const path of await views(page)) {
    await page.goto(path);
    const shift = await page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          let sum = 0;
          new PerformanceObserver((list) => {
            for (const entry of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
              if (!entry.hadRecentInput) sum += entry.value;
          }).observe({ type: 'layout-shift', buffered: true });
          setTimeout(() => resolve(sum), 1200);
        }),
    );
    expect([path, shift < 0.02 ? 'still' : shift]).toEqual([path, 'still']);
  }
});

test('phone width works without scrolling sideways', async ({ browser }) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 800 } });
  for (const path of await views(page)) {
    await page.goto(path);
    await page.locator('h1, h2').first().waitFor();
    expect([path, await page.evaluate(() => document.documentElement.scrollWidth)]).toEqual([path, 390]);
  }
});
