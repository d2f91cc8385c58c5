import { expect, test, type Page } from '@playwright/test';
import { join } from 'node:path';
import { openWithClipper, signIn } from './pages';

const FOLDER = join(import.meta.dirname, '../docs/screenshots');

interface Found {
  items: { id: string }[];
}

/** The clipper beside a profile of Rollcall. */
async function clipperPicture(rep: Page): Promise<void> {
  const made = await rep.request.post('/api/tokens', { data: { name: 'clipper' } });
  const { token } = (await made.json()) as { token: string };
  const browser = await openWithClipper(token);
  const page = await browser.newPage();
  await page.goto(`${process.env.E2E_ROLLCALL_URL ?? ''}/people/callum-redfern`);
  await page.keyboard.press('Alt+Shift+E');
  await page.frameLocator('#emporikon-clipper').getByText('What we read').waitFor();
  await page.waitForTimeout(500);
  await page.screenshot({ path: join(FOLDER, 'clipper.png') });
  await browser.close();
}

test('pictures of the main views', async ({ browser }) => {
  test.setTimeout(180_000);
  const page = await signIn(browser);
  const shoot = async (name: string): Promise<void> => {
    // What is not there yet has no heading that can be seen, or grey lines in its place.
    await expect(page.getByRole('heading').first()).toBeVisible();
    await expect(page.locator('.ghost')).toHaveCount(0);
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(FOLDER, `${name}.png`) });
  };
  const find = async (q: string): Promise<string> =>
    ((await (await page.request.get(`/api/search?q=${q}`)).json()) as Found).items[0]?.id ?? '';
  await shoot('arrivals');
  const { items } = (await (await page.request.get('/api/captures')).json()) as Found;
  const response = await page.request.post(`/api/captures/${items[0]?.id ?? ''}/filing`, { data: {} });
  const { lead } = (await response.json()) as { lead: { id: string } };
  await page.goto(`/leads/${lead.id}`);
  await shoot('lead');
  await page.goto(`/people/${await find('ines%20duarte')}`);
  await page
    .getByLabel('Write what happened or what comes next')
    .fill('call Thursday 11am about the quote, she wants ten bikes now');
  await shoot('dossier');
  await page.goto(`/companies/${await find('greenbasket')}`);
  await shoot('company');
  const deals = (await (await page.request.get('/api/search?q=greenbasket')).json()) as {
    items: { id: string; kind: string }[];
  };
  await page.goto(`/deals/${deals.items.find((hit) => hit.kind === 'deal')?.id ?? ''}`);
  await page.getByRole('button', { name: 'Products and quotes', exact: true }).click();
  await shoot('deal');
  await page.goto('/deals/forecast');
  await page.locator('.chart .main-svg').first().waitFor();
  await shoot('forecast');
  await page.goto('/round/week');
  // The next week has the meetings to come, whatever day it is.
  await page.getByRole('button', { name: 'Later' }).click();
  await page.locator('[data-key]').first().waitFor();
  await shoot('week');
  await page.goto(`/people/${await find('ines%20duarte')}`);
  await page.getByRole('button', { name: 'Write a letter' }).click();
  await page.getByRole('button', { name: /^Thank you for asking/ }).click();
  await expect(page.getByRole('textbox', { name: 'The letter', exact: true })).toContainText('Dear Ines');
  await page.getByLabel('Follow up').fill('call in 3 working days');
  await expect(page.getByLabel('Drop it if they answer first')).toBeChecked();
  await shoot('letter');
  for (const view of ['deals', 'round', 'people']) {
    await page.goto(`/${view}`);
    await shoot(view);
  }
  await page.goto('/people/look-alikes');
  await page.getByText('same number').waitFor();
  await shoot('look-alikes');
  await page.goto('/people/views');
  await page.getByRole('link', { name: 'Going quiet' }).click();
  await page.getByLabel('Add a condition in words').fill('by country then month of last spoken to');
  await page.getByLabel('Add a condition in words').press('Enter');
  await page.locator('tr.heading').first().waitFor();
  await shoot('view');
  await page.goto('/calls/new');
  await page
    .getByLabel('Write the call in plain words')
    .fill(
      'Ines Duarte, Padaria Sol, +351 910 555 014. wants 8 long bikes from March, budget about 40k, decides with her brother. send quote, lunch Thu 11-12',
    );
  await page.waitForTimeout(800);
  await shoot('call-sheet');
  await page.goto('/imports');
  await page.locator('input[type=file]').setInputFiles({
    name: 'spring-fair.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(
      'Name;Firma;E-Mail;Handy;Geburtstag\nJörg Bühler;Bühler GmbH;joerg@buehler.example;+49 171 3920012;12.04.1985\nInes Duarte;Padaria Sol;ines@padariasol.example;;\nAnna Kühn;Café Kühn;anna@kuehn.example;+49 171 3920013;\n;Ohne Namen;;;\n',
    ),
  });
  await page.waitForURL('**/imports/*');
  await page.getByRole('button', { name: 'Preview' }).click();
  await page.getByText('ready to import').waitFor();
  await shoot('import-bench');
  const manager = await signIn(browser, 'mara');
  await manager.goto('/forms');
  await manager.getByRole('link', { name: 'Ask us about a bike' }).click();
  await manager.waitForTimeout(900);
  await manager.screenshot({ path: join(FOLDER, 'form.png') });
  const cases = (await (await manager.request.get('/api/cases?q=cold%20box')).json()) as Found;
  await manager.goto(`/cases/${cases.items[0]?.id ?? ''}`);
  await manager.waitForTimeout(900);
  await manager.screenshot({ path: join(FOLDER, 'case.png') });
  await clipperPicture(page);
  const dark = await signIn(browser, 'mara', { colorScheme: 'dark' });
  await dark.goto('/settings/fit');
  await dark.waitForTimeout(700);
  await dark.screenshot({ path: join(FOLDER, 'qualifying-lamplight.png') });
});
