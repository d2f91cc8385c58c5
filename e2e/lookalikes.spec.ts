import { expect, test, type Page } from './test';
import { makeMail, signIn } from './pages';

interface Double {
  name: string;
  first: string;
  second: string;
}

/** British area codes in which 496 0000 to 496 0999 are kept for fiction (Ofcom). */
const AREAS = [113, 114, 115, 116, 117, 118, 121, 131, 141, 151, 161];

/** One person twice: by the firm's address and number, and at home. */
async function makeDouble(page: Page): Promise<Double> {
  const { name, company } = makeMail();
  // Of ranges that nothing else here takes numbers from: one that four people have would be a switchboard.
  const at = Date.now() % (AREAS.length * 1000);
  const phone = `0${AREAS[Math.floor(at / 1000)] ?? AREAS[0]} 496 0${String(at % 1000).padStart(3, '0')}`;
  const add = async (data: object): Promise<string> =>
    (
      (await (
        await page.request.post('/api/people', {
          data: { fullName: name, phone, companyName: company, ...data },
        })
      ).json()) as {
        person: { id: string };
      }
    ).person.id;
  const key = name.toLowerCase().replace(/[^a-z]/g, '');
  const first = await add({ email: `${key}@work.example`, jobTitle: 'Baker' });
  for (const local of ['office', 'orders'])
    await page.request.post(`/api/people/${first}/contacts`, {
      data: { kind: 'email', value: `${local}.${key}@work.example` },
    });
  return { name, first, second: await add({ email: `${key}@home.example`, jobTitle: 'Head Baker' }) };
}

const lookAgain = async (page: Page): Promise<void> => {
  await page.goto('/people/look-alikes');
  await page.getByRole('button', { name: 'Compare again' }).click();
};

test('look-alikes are judged by keyboard, merged with a chosen value, and taken apart again', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { name, first, second } = await makeDouble(page);
  await lookAgain(page);
  const group = page.getByRole('list', { name: 'Groups, surest first' }).getByRole('button', { name });
  await group.click();
  const sheet = page.getByRole('region', { name: 'Side by side' });
  await expect(sheet.getByText('same number')).toBeVisible();
  await expect(sheet.getByText(/move to/)).toContainText('2 contact details');
  // The newer title is proposed; the older is chosen.
  await expect(sheet.getByRole('button', { name: 'Head Baker' })).toHaveAttribute('aria-pressed', 'true');
  await sheet.getByRole('button', { name: 'Baker', exact: true }).click();
  await expect(sheet.getByText('chosen by you')).toBeVisible();
  await page.keyboard.press('s');
  await expect(page.getByText(`Merged: ${name}.`)).toBeVisible();
  await expect(group).toHaveCount(0);
  await page.goto(`/people/${second}`);
  await page.waitForURL(`**/people/${first}`);
  await expect(page.locator('[data-fact=jobTitle]')).toContainText('Baker');
  await expect(page.locator('[data-fact=jobTitle]')).not.toContainText('Head Baker');
  await page.getByRole('button', { name: 'Separate again' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog.getByText('Nothing happened since.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Separate' }).click();
  await page.waitForURL(`**/people/${second}`);
  await expect(page.locator('[data-fact=jobTitle]')).toContainText('Head Baker');
});

test('what is different is not asked again, what is skipped stays, and the sure ones are merged at once', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const [one, other] = [await makeDouble(page), await makeDouble(page)];
  await lookAgain(page);
  const groups = page.getByRole('list', { name: 'Groups, surest first' });
  await groups.getByRole('button', { name: one.name }).click();
  await expect(page.getByRole('region', { name: 'Side by side' }).getByText(one.name).first()).toBeVisible();
  await page.keyboard.press('d');
  await expect(page.getByText('Kept apart; not asked again unless their facts change.')).toBeVisible();
  await expect(groups.getByRole('button', { name: one.name })).toHaveCount(0);
  await groups.getByRole('button', { name: other.name }).click();
  await page.keyboard.press('k');
  await expect(groups.getByRole('button', { name: other.name })).toBeVisible();
  await page.getByRole('button', { name: 'Merge the sure ones…' }).click();
  const dialog = page.getByRole('dialog');
  const line = dialog.getByRole('listitem').filter({ hasText: other.name });
  await expect(line).toContainText('move');
  for (const box of await dialog.getByRole('checkbox').all()) await box.uncheck();
  await line.getByRole('checkbox').check();
  await dialog.getByRole('button', { name: 'Merge 1 group' }).click();
  await expect(page.getByText(/1 group merged/)).toBeVisible();
  await page.goto(`/people/${other.second}`);
  await page.waitForURL(`**/people/${other.first}`);
});

test('two records are compared by hand, and an inactive person comes last and marked', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { name, first, second } = await makeDouble(page);
  await page.goto(`/people/${first}`);
  await page.getByRole('button', { name: 'More…' }).click();
  await page.getByText('Same as somebody else…').click();
  await page.getByLabel('The other record').fill(name);
  await page
    .getByRole('button', { name: new RegExp(`^${name}`) })
    .last()
    .click();
  await expect(page.getByRole('heading', { name: 'Side by side' })).toBeVisible();
  await expect(page.getByText('Head Baker').first()).toBeVisible();
  await page.goto(`/people/${second}`);
  await page.getByRole('button', { name: 'More…' }).click();
  await page.getByText('Set inactive').click();
  await expect(page.getByText(/Inactive since/)).toBeVisible();
  await page.getByLabel('Find a record or type what to do').fill(name);
  const found = page.getByRole('listbox', { name: 'Found' }).getByRole('option').filter({ hasText: name });
  await expect(found.last()).toContainText('inactive person');
});

test('two of one name are answered as namesakes, which both records say until it is taken back', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { name, first, second } = await makeDouble(page);
  await lookAgain(page);
  await page.getByRole('list', { name: 'Groups, surest first' }).getByRole('button', { name }).click();
  const sheet = page.getByRole('region', { name: 'Side by side' });
  await expect(sheet.getByRole('list', { name: 'For a match' })).toContainText('same number');
  await expect(sheet.getByRole('list', { name: 'Against a match' })).toContainText('another address');
  await page.keyboard.press('n');
  await expect(page.getByText('Kept apart as namesakes, which both records show.')).toBeVisible();
  const said = page.getByText(/Not the same as/);
  for (const [id, other] of [
    [first, second],
    [second, first],
  ]) {
    await page.goto(`/people/${id}`);
    await expect(said).toContainText('namesakes, said by');
    await expect(said.getByRole('link', { name })).toHaveAttribute('href', `/people/${other}`);
  }
  // On a second thought they are father and son.
  await page.goto(`/people/look-alikes?ids=${first},${second}`);
  await page.getByRole('button', { name: 'Father and son' }).click();
  await page.waitForURL(`**/people/${first}`);
  await expect(said).toContainText('father and son, said by');
  await page.getByRole('button', { name: 'Take back' }).click();
  await expect(said).toHaveCount(0);
  await page.locator('.told').getByRole('button', { name: 'Undo' }).click();
  await expect(said).toContainText('father and son, said by');
});
