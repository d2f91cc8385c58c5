import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Browser, type BrowserContext, type Page, type Response } from './test';
import { gzipSync } from 'node:zlib';
import { signIn, urlOf } from './pages';
import { noteRequests, whenQuiet } from './quiet';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];

interface Listed {
  items: { id: string }[];
}

type Path = string | ((page: Page) => Promise<string>);

const firstOf =
  (list: string) =>
  async (page: Page): Promise<string> =>
    `/${list}/${((await (await page.request.get(`/api/${list}`)).json()) as Listed).items[0]?.id ?? ''}`;

const VIEWS: Record<string, Path> = {
  Arrivals: async (page) => {
    await page.request.post('/api/captures?url=https%3A%2F%2Frollcall.example%2Fpeople%2Fgwen', {
      headers: { 'content-type': 'text/html' },
      data: `<h1>Gwen Framed</h1><h2>Buyer at Framed Bakery</h2><p>${Date.now()}</p>`,
    });
    return '/arrivals';
  },
  Round: '/round',
  delegated: '/round/delegated',
  'a day': '/round/day',
  'a week': '/round/week',
  'a month': async (page) => {
    // More than a day has room for, so that the rest stands behind a link; far ahead, where it is in nobody's way.
    for (let count = 1; count <= 8; count++)
      await page.request.post('/api/tasks', {
        data: { title: `Crowded ${count}`, dueAt: '2031-01-15T00:00:00Z' },
      });
    return '/round/month?on=2031-01-15';
  },
  'an agenda': '/round/agenda',
  'a new meeting': '/round/week?meeting=new',
  'a task': async (page) => {
    const { items } = (await (await page.request.get('/api/tasks?assignee=all')).json()) as Listed;
    return `/round?task=${items[0]?.id ?? ''}`;
  },
  'a file': async (page) => {
    const added = await page.request.post(
      `/api/files?name=looked-at.txt&personId=${(await firstOf('people')(page)).split('/').at(-1) ?? ''}`,
      {
        headers: { 'content-type': 'application/octet-stream' },
        data: `Words to look at ${Date.now()}`,
      },
    );
    const { id } = (await added.json()) as { id: string };
    return `/people?file=${id}`;
  },
  'limits of files': '/settings/files',
  'consent and topics': '/settings/consent',
  areas: '/settings/areas',
  Leads: '/leads',
  'a lead': firstOf('leads'),
  'a view of people': '/people/views/new',
  'a view in lanes': `/leads/views/new?changed=${encodeURIComponent(
    JSON.stringify({
      ...{
        kind: 'lead',
        conditions: [{ field: 'owner', op: 'is', value: ['me'] }],
        groups: [],
        order: [],
        totals: [],
        columns: ['title', 'source', 'owner'],
      },
      layout: { as: 'lanes', by: 'status' },
    }),
  )}`,
  'a view in a calendar': `/people/views/new?changed=${encodeURIComponent(
    JSON.stringify({
      ...{ kind: 'person', conditions: [], groups: [], order: [], totals: [], columns: ['fullName'] },
      layout: { as: 'calendar', by: 'createdAt' },
    }),
  )}`,
  'a view on the map': `/companies/views/new?changed=${encodeURIComponent(
    JSON.stringify({
      ...{ kind: 'company', conditions: [], groups: [], order: [], totals: [], columns: ['companyName'] },
      layout: { as: 'map' },
    }),
  )}`,
  'a view of history': '/round/history',
  'a view of captures': '/arrivals/views',
  'a view of projects': '/deals/projects/views',
  People: '/people',
  'look-alikes': '/people/look-alikes',
  'a person': firstOf('people'),
  Companies: '/companies',
  'a company': firstOf('companies'),
  Deals: '/deals',
  'a deal': async (page) => {
    const { items: deals } = (await (await page.request.get('/api/deals')).json()) as {
      items: { id: string }[];
    };
    return `/deals/${deals[0]?.id ?? ''}`;
  },
  projects: '/deals/projects?state=all',
  'a project': async (page) => {
    const { items } = (await (await page.request.get('/api/projects')).json()) as Listed;
    return `/projects/${items[0]?.id ?? ''}`;
  },
  cases: '/deals/cases?state=all',
  'a case': async (page) => {
    const { items } = (await (await page.request.get('/api/cases')).json()) as Listed;
    return `/cases/${items[0]?.id ?? ''}`;
  },
  'projects and cases, settings': '/settings/after-deals',
  Settings: '/settings/profile',
  accounts: '/settings/teams',
  prices: '/settings/products',
  calls: '/calls',
  'a new call': '/calls/new',
  'look-ups': '/people/look-ups',
  forecast: '/deals/forecast',
  notices: '/settings/notices',
  'change history': '/settings/changes',
  'bulk changes': '/settings/bulk',
  exports: '/settings/exports',
  'where I am signed in': '/settings/sign-in',
  'calendar settings': '/settings/calendar',
  'closed days': '/settings/closed-days',
  'kinds of tasks': '/settings/task-kinds',
  rhythms: '/settings/rhythms',
  'tags and sources': '/settings/tags',
  'standings, statuses and kinds': '/settings/terms',
  'reading accuracy': '/settings/accuracy',
  privacy: '/settings/privacy',
  'stages and prices': '/settings/pipelines',
  fit: '/settings/fit',
  'win chance': '/settings/win-chance',
  triage: '/people/triage',
  imports: '/imports',
  forms: '/forms',
  'a form': firstOf('forms'),
  letters: '/mailings/letters',
  'a letter': async (page) => {
    const about = { personId: (await firstOf('people')(page)).split('/').at(-1) ?? '' };
    const begun = await page.request.post('/api/letters', { data: { about, subject: 'To look at' } });
    const { letter } = (await begun.json()) as { letter: { id: string } };
    return `/letters/${letter.id}`;
  },
  templates: async (page) => {
    const { items } = (await (await page.request.get('/api/letter-templates')).json()) as Listed;
    return `/mailings/templates?template=${items[0]?.id ?? ''}`;
  },
  signature: '/settings/signature',
  'sending mail': '/settings/sending',
  'a page that is not there': '/nowhere',
};

let signedIn: Awaited<ReturnType<BrowserContext['storageState']>>;
/** What comes with the first page, whichever it is. */
let first: Scripts;

test.beforeAll(async ({ browser }) => {
  const page = await signIn(browser, 'mara');
  signedIn = await page.context().storageState();
  await page.context().close();
  const fresh = await openPage(browser);
  first = await scriptsOf(fresh, '/arrivals');
  await fresh.context().close();
});

/** A page of the manager's, signed in already: every view is a test of its own, however slow the machine. */
async function openPage(browser: Browser, options: { colorScheme?: 'light' | 'dark' } = {}): Promise<Page> {
  const context = await browser.newContext({
    storageState: signedIn,
    baseURL: urlOf(),
    locale: 'en-GB',
    viewport: { width: 1280, height: 800 },
    ...options,
  });
  const page = await context.newPage();
  noteRequests(page);
  return page;
}

async function violations(page: Page, look: (axe: AxeBuilder) => AxeBuilder): Promise<string[]> {
  // What stands in the frame is theirs, and no script runs in it, not even the one that would look.
  const found = await look(new AxeBuilder({ page }).exclude('iframe')).analyze();
  return found.violations.map(
    (violation) =>
      `${violation.id}: ${violation.nodes
        .map((node) => node.target.join(' '))
        .slice(0, 3)
        .join('; ')}`,
  );
}

const groundOf = (page: Page): Promise<string> =>
  page.locator('.v-application').evaluate((app) => getComputedStyle(app).backgroundColor);

/** The sum of the layout shifts so far that are not the answer to something the user did. */
const shiftOf = (page: Page): Promise<number> =>
  page.evaluate(
    () =>
      new Promise<number>((resolve) => {
        let sum = 0;
        new PerformanceObserver((list) => {
          for (const entry of list.getEntries() as unknown as { value: number; hadRecentInput: boolean }[])
            if (!entry.hadRecentInput) sum += entry.value;
        }).observe({ type: 'layout-shift', buffered: true });
        // What is buffered is told in a task of its own, before one that is queued two frames later.
        requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(() => resolve(sum))));
      }),
  );

const FIRST_LOAD_KB = 250;
const PAGE_KB = 120;
/** Charts are apart. What a worker reads with does not hold up a page, and is fetched beside it. */
const APART = /plotly|callSheet/;

type Scripts = Map<string, { gzip: number; sent: number }>;

/** Scripts that come with a page: as gzip would send them, and as they were sent. */
async function scriptsOf(page: Page, path: string): Promise<Scripts> {
  const scripts: Scripts = new Map();
  const reading: Promise<void>[] = [];
  const note = (response: Response): void => {
    const { pathname } = new URL(response.url());
    if (!pathname.endsWith('.js') || APART.test(pathname)) return;
    reading.push(
      (async () => {
        const { responseBodySize } = await response.request().sizes();
        scripts.set(pathname, { gzip: gzipSync(await response.body()).length, sent: responseBodySize });
      })(),
    );
  };
  page.on('response', note);
  await page.goto(path);
  await whenQuiet(page);
  await Promise.all(reading);
  page.off('response', note);
  return scripts;
}

const sum = (sizes: Iterable<number>): number => [...sizes].reduce((all, size) => all + size, 0);

for (const [name, where] of Object.entries(VIEWS))
  test(`${name}: its own part is small, nothing shifts, axe finds nothing in either theme, and it fits a phone`, async ({
    browser,
  }) => {
    test.setTimeout(180_000);
    const page = await openPage(browser);
    const path = typeof where === 'string' ? where : await where(page);
    const own = [...(await scriptsOf(page, path))].filter(([script]) => !first.has(script));
    const size = sum(own.map(([, script]) => script.gzip));
    console.log(`own part of ${name}: ${Math.round(size / 1000)} kB gzipped`);
    expect(size).toBeLessThan(PAGE_KB * 1000);
    expect(
      await violations(page, (axe) =>
        axe.options({
          runOnly: TAGS,
          // What is seen on a control is what it is called by.
          rules: { 'label-content-name-mismatch': { enabled: true } },
        }),
      ),
    ).toEqual([]);
    // After axe, so that what came late counts as well.
    expect(await shiftOf(page)).toBeLessThan(0.02);
    // Between the themes only colours differ.
    const ground = await groundOf(page);
    await page.emulateMedia({ colorScheme: 'dark' });
    await expect.poll(() => groundOf(page)).not.toBe(ground);
    await whenQuiet(page);
    expect(await violations(page, (axe) => axe.withRules(['color-contrast']))).toEqual([]);
    await page.setViewportSize({ width: 390, height: 800 });
    await page.reload();
    await whenQuiet(page);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(390);
    await page.context().close();
  });

for (const colorScheme of ['light', 'dark'] as const)
  test(`axe finds nothing in dialogs and in the composer, ${colorScheme}`, async ({ browser }) => {
    test.setTimeout(120_000);
    const page = await openPage(browser, { colorScheme });
    const inDialog = async (): Promise<string[]> => {
      await expect(page.getByRole('dialog')).toBeVisible();
      await expect(page.getByRole('dialog').getByRole('heading').first()).toHaveCSS(
        'font-family',
        /Literata/,
      );
      return violations(page, (axe) => axe.include('[role=dialog]'));
    };
    await page.goto('/arrivals');
    await page.getByRole('button', { name: 'Capture' }).click();
    expect(await inDialog()).toEqual([]);
    const hits = (await (await page.request.get('/api/search?q=duarte')).json()) as Listed;
    await page.goto(`/people/${hits.items[0]?.id ?? ''}`);
    await page.getByRole('button', { name: /^Where Mobile comes from/ }).click();
    expect(await inDialog()).toEqual([]);
    await page.getByRole('dialog').getByRole('button', { name: 'Close' }).click();
    await page.getByLabel('Write what happened or what comes next').fill('call Thursday 11am, budget 48k');
    await expect(page.locator('.light .lit').first()).toHaveText('call');
    expect(await violations(page, (axe) => axe.include('.composer'))).toEqual([]);
    await page.context().close();
  });

test('the pages before sign-in have no violation either', async ({ page }) => {
  for (const path of ['sign-in', 'forgot', 'new-password']) {
    await page.goto(`${process.env.E2E_URL ?? ''}/${path}`);
    await page.getByLabel(/Email|New password/).waitFor();
    const { violations: found } = await new AxeBuilder({ page }).analyze();
    expect([path, found.map((violation) => violation.id)]).toEqual([path, []]);
  }
});

test('the first load of the signed-in app stays small', () => {
  const gzip = sum([...first.values()].map((size) => size.gzip));
  const sent = sum([...first.values()].map((size) => size.sent));
  console.log(`first load: ${Math.round(gzip / 1000)} kB gzipped, ${Math.round(sent / 1000)} kB as sent`);
  expect(gzip).toBeGreaterThan(20_000);
  expect(gzip).toBeLessThan(FIRST_LOAD_KB * 1000);
});
