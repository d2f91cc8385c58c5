import { test } from '@playwright/test';
import { join } from 'node:path';
import { signIn } from './pages';

const FOLDER = join(import.meta.dirname, '../docs/screenshots');

interface Found {
  items: { id: string }[];
}

test('pictures of the main views', async ({ browser }) => {
  const page = await signIn(browser);
  const shoot = async (name: string): Promise<void> => {
    await page.waitForTimeout(700);
    await page.screenshot({ path: join(FOLDER, `${name}.png`) });
  };
  const find = async (q: string): Promise<string> =>
    ((await (await page.request.get(`/api/search?q=${q}`)).json()) as Found).items[0]?.id ?? '';
  await shoot('arrivals');
  await page.getByRole('button', { name: 'Capture' }).click();
  await shoot('capture');
  await page.getByRole('button', { name: 'Leave it' }).click();
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
  await page.getByRole('button', { name: /^Where Mobile comes from/ }).click();
  await shoot('evidence');
  await page.goto(`/companies/${await find('greenbasket')}`);
  await shoot('company');
  const deals = (await (await page.request.get('/api/search?q=harrow')).json()) as {
    items: { id: string; kind: string }[];
  };
  await page.goto(`/deals/${deals.items.find((hit) => hit.kind === 'deal')?.id ?? ''}`);
  await shoot('deal');
  for (const view of ['deals', 'round', 'leads', 'people', 'companies', 'settings']) {
    await page.goto(`/${view}`);
    await shoot(view);
  }
  const dark = await signIn(browser, 'pell', { colorScheme: 'dark' });
  await dark.goto('/deals');
  await dark.waitForTimeout(700);
  await dark.screenshot({ path: join(FOLDER, 'deals-lamplight.png') });
  const phone = await signIn(browser, 'pell', { viewport: { width: 390, height: 800 } });
  await phone.goto(`/people/${await find('ines%20duarte')}`);
  await phone.waitForTimeout(700);
  await phone.screenshot({ path: join(FOLDER, 'dossier-phone.png') });
});
