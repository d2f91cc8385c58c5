import { expect, test, type Page } from './test';
import { signIn } from './pages';

/** Somebody of whom so much is known that their card cannot show all of it above the ledger. */
async function makeFullPerson(page: Page): Promise<string> {
  const name = `Full Card${Date.now()}`;
  const made = await page.request.post('/api/people', {
    data: { fullName: name, companyName: `${name} Ltd` },
  });
  const { person } = (await made.json()) as { person: { id: string } };
  for (let at = 0; at < 14; at++)
    await page.request.post(`/api/people/${person.id}/contacts`, {
      data: { kind: 'email', value: `desk${at}@full${Date.now()}.example` },
    });
  for (const title of ['Call about the boxes', 'Send the sheet', 'Ask for a day', 'Write again'])
    await page.request.post('/api/tasks', {
      data: { title, dueAt: new Date(Date.now() + 86_400_000).toISOString(), personId: person.id },
    });
  return person.id;
}

const shareOfLedger = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const ledger = document.querySelector('.ledger')?.getBoundingClientRect();
    const composer = document.querySelector('form.composer, .composer')?.getBoundingClientRect();
    const bottom = Math.min(ledger?.bottom ?? 0, composer?.top ?? innerHeight, innerHeight);
    return (bottom - (ledger?.top ?? innerHeight)) / innerHeight;
  });

test('a phone on its side begins with the ledger, and shows the card when it is unfolded', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 844, height: 390 }, isMobile: true });
  const id = await makeFullPerson(page);
  await page.request.post('/api/ledger', {
    data: { line: 'Likes the long bike', about: { personId: id } },
  });
  await page.goto(`/people/${id}`);
  await expect(page.getByText('Likes the long bike')).toBeInViewport();
  await page.getByRole('button', { name: 'Unfold' }).click();
  await expect(page.getByRole('region', { name: 'Card' }).getByText('Email').first()).toBeInViewport();
  await page.getByRole('button', { name: 'Fold', exact: true }).click();
  await expect(page.getByText('Likes the long bike')).toBeInViewport();
  await page.goto('/arrivals');
  await page.getByRole('button', { name: 'File it' }).scrollIntoViewIfNeeded();
  await expect(page.getByRole('heading', { name: 'What came in' })).toBeInViewport();
});

test('the ledger has nearly half of the screen however full the card is; the rest comes when asked for', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 1280, height: 800 } });
  const id = await makeFullPerson(page);
  await page.goto(`/people/${id}`);
  await expect(page.getByRole('button', { name: 'Show all' })).toBeVisible();
  expect(await shareOfLedger(page)).toBeGreaterThanOrEqual(0.45);
  const last = page.getByRole('button', { name: 'Add an address, number or link' });
  await page.getByRole('button', { name: 'Show all' }).click();
  await last.click();
  await expect(page.getByLabel('Detail', { exact: true })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Show less' }).click();
  expect(await shareOfLedger(page)).toBeGreaterThanOrEqual(0.45);
  // Nothing is shown of which only a part would be seen.
  await expect(last).toBeHidden();
  await page.getByRole('button', { name: 'Show all' }).click();
  const next = page.locator('[data-next-move]');
  await expect(next.locator('[data-move]')).toHaveCount(2);
  await next.getByRole('button', { name: '2 more' }).click();
  await expect(next.locator('[data-move]')).toHaveCount(4);
});

test('on a phone what is not known yet stays out of the way until all is asked for', async ({ browser }) => {
  const page = await signIn(browser, 'pell', { viewport: { width: 390, height: 844 } });
  const made = await page.request.post('/api/companies', { data: { name: `Bare ${Date.now()}` } });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await expect(page.locator('[data-fact=name]')).toBeVisible();
  await expect(page.locator('[data-fact=industry]')).toBeHidden();
  await page.getByRole('button', { name: 'Show all' }).click();
  await expect(page.locator('[data-fact=industry]')).toBeVisible();
});

test('a company is assigned to a colleague, and its org chart says where reporting lines are made', async ({
  browser,
}) => {
  const page = await signIn(browser, 'pell');
  const made = await page.request.post('/api/companies', { data: { name: `Given ${Date.now()}` } });
  const { company } = (await made.json()) as { company: { id: string } };
  await page.goto(`/companies/${company.id}`);
  await page.getByRole('button', { name: 'Assign to…' }).click();
  await page.getByText('Ines Tolland', { exact: true }).click();
  await expect(page.getByText('Assigned to Ines Tolland.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Card' })).toContainText('Ines Tolland');
  await page.getByRole('button', { name: 'Org chart' }).click();
  await expect(page.getByText('No reporting lines yet')).toBeVisible();
});

test('going from one record to another of its kind shows the other one, and what is written there is its own', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = `s${Date.now() % 1_000_000}`;
  const post = async <Made>(path: string, data: object): Promise<Made> =>
    (await (await page.request.post(path, { data })).json()) as Made;
  const people = [];
  for (const name of [`Alda ${mark}`, `Bodo ${mark}`]) {
    const { person } = await post<{ person: { id: string } }>('/api/people', { fullName: name });
    people.push({ name, id: person.id });
  }
  const [alda, bodo] = people;
  for (const [at, { id }] of people.entries()) {
    await post('/api/leads', { title: `Lead ${at} ${mark}`, personId: id });
    await post('/api/deals', { title: `Deal ${at} ${mark}`, personId: id });
    await post('/api/companies', { name: `Firm ${at} ${mark}`, domain: null });
  }
  const goTo = async (words: string): Promise<void> => {
    await page.keyboard.press('Control+k');
    await page.keyboard.type(words);
    await page.getByRole('option', { name: words }).first().click();
    await expect(page.getByRole('heading', { name: words, level: 1 })).toBeVisible();
  };
  await page.goto(`/people/${alda?.id ?? ''}`);
  await expect(page.getByRole('heading', { name: alda?.name ?? '', level: 1 })).toBeVisible();
  await goTo(bodo?.name ?? '');
  const composer = page.getByPlaceholder(/Write a note/);
  await composer.fill('Prefers the afternoon');
  await composer.press('Enter');
  await expect(page.getByText('Prefers the afternoon').first()).toBeVisible();
  for (const kind of ['Lead', 'Deal', 'Firm']) {
    await goTo(`${kind} 0 ${mark}`);
    await goTo(`${kind} 1 ${mark}`);
  }
  await page.goto(`/people/${alda?.id ?? ''}`);
  await expect(page.getByRole('heading', { name: alda?.name ?? '', level: 1 })).toBeVisible();
  await expect(page.getByText('Prefers the afternoon')).toBeHidden();
});

test('everybody chooses which facts their cards show first, on every card of the kind, and on every device', async ({
  browser,
}) => {
  const page = await signIn(browser, 'ines');
  const made = [];
  for (const fullName of ['Ada Arranged', 'Bea Arranged']) {
    const answer = await page.request.post('/api/people', { data: { fullName } });
    made.push(((await answer.json()) as { person: { id: string } }).person.id);
  }
  const facts = (of: Page) => of.locator('.facts .fact[data-fact]');
  /** The captions as they are seen: by their place on the page. */
  const seen = (of: Page): Promise<string[]> =>
    facts(of).evaluateAll((all) =>
      all
        .map((one) => ({
          at: one.getBoundingClientRect(),
          text: one.querySelector('.cap')?.textContent ?? '',
        }))
        .sort((a, b) => a.at.top - b.at.top || a.at.left - b.at.left)
        .map(({ text }) => text),
    );
  await page.goto(`/people/${made[0] ?? ''}`);
  await expect(facts(page).first()).toBeVisible();
  expect((await seen(page))[0]).toBe('Name');
  const arrange = async (of: Page): Promise<void> => {
    const all = of.getByRole('button', { name: 'Show all' });
    if (await all.isVisible()) await all.click();
    await of.getByRole('button', { name: 'Arrange', exact: true }).click();
  };
  await arrange(page);
  await page.getByRole('button', { name: 'Show first Time zone' }).click();
  await page.getByRole('button', { name: 'Show first Background' }).click();
  await page.getByRole('button', { name: 'Move up Background' }).click();
  await expect
    .poll(() => seen(page).then((all) => all.slice(0, 3)))
    .toEqual(['Background', 'Time zone', 'Name']);
  await page.keyboard.press('Escape');
  const other = await signIn(browser, 'ines');
  await other.goto(`/people/${made[1] ?? ''}`);
  await expect.poll(() => seen(other).then((all) => all.slice(0, 2))).toEqual(['Background', 'Time zone']);
  const pell = await signIn(browser);
  await pell.goto(`/people/${made[1] ?? ''}`);
  await expect(facts(pell).first()).toBeVisible();
  expect((await seen(pell))[0]).toBe('Name');
  await arrange(other);
  await other.getByRole('button', { name: 'Reset' }).click();
  await expect.poll(() => seen(other).then((all) => all[0])).toBe('Name');
});
