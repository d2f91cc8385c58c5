import AxeBuilder from '@axe-core/playwright';
import { join } from 'node:path';
import { build } from 'vite';
import { expect, test } from './test';
import { signIn } from './pages';

const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
const NAMES = [
  'EditCell',
  'DateField',
  'TimeField',
  'NumberField',
  'MoneyField',
  'TagField',
  'RecordField',
  'RecordPicker',
  'RichText',
  'FileButton',
  'FileDrop',
  'PageHead',
  'SourceMark',
  'ChannelIcon',
  'FormDialog',
  'SidePanel',
  'Undo',
  'Progress',
  'UnderWay',
  'RetireButton',
  'RemovableRows',
  'RecordTable',
];

const WEB = join(import.meta.dirname, '..', 'web');
const BUILT = join(import.meta.dirname, '..', 'test-results', 'kit');

/** The application as who develops it has it, with the page of examples, which is left out of what is sent to anybody. */
test.beforeAll(async () => {
  test.setTimeout(120_000);
  await build({
    root: WEB,
    configFile: join(WEB, 'vite.config.ts'),
    mode: 'kit',
    logLevel: 'error',
    build: { outDir: BUILT, emptyOutDir: true },
  });
});

for (const colorScheme of ['light', 'dark'] as const)
  for (const width of [1280, 390])
    test(`every component of the kit has its example, ${colorScheme}, ${width} wide`, async ({
      browser,
    }, info) => {
      test.setTimeout(120_000);
      const page = await signIn(browser, 'pell', { colorScheme, viewport: { width, height: 844 } });
      await page.context().route(
        ({ pathname }) => !pathname.startsWith('/api/'),
        async (route) => {
          const { pathname } = new URL(route.request().url());
          await route.fulfill({ path: join(BUILT, pathname.includes('.') ? pathname : 'index.html') });
        },
      );
      await page.goto('/kit');
      for (const name of NAMES) await expect(page.getByRole('region', { name, exact: true })).toBeVisible();
      await page.screenshot({ path: info.outputPath('kit.png'), fullPage: true });
      const { violations } = await new AxeBuilder({ page }).withTags(TAGS).analyze();
      expect(violations.map(({ id, nodes }) => [id, nodes.map(({ target }) => target)])).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(width);
    });

test('the letter of a source has its word when it is pointed at and when the keys are at it', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { items } = (await (await page.request.get('/api/search?q=duarte')).json()) as {
    items: { id: string }[];
  };
  await page.goto(`/people/${items[0]?.id ?? ''}`);
  const mark = page.getByRole('button', { name: /^Where .* comes from/ }).first();
  await mark.hover();
  await expect(page.getByRole('tooltip')).toContainText(/^(Read from|Entered by hand|Looked up)/);
  await page.mouse.move(0, 0);
  await expect(page.getByRole('tooltip')).toHaveCount(0);
  await mark.focus();
  await expect(page.getByRole('tooltip')).toBeVisible();
});
