import { expect, test } from './test';
import { meter } from './meter';
import { signIn } from './pages';

/** A rep of one's own, whose round nobody else adds to. */
async function newRep(browser: Parameters<typeof signIn>[0]) {
  const joss = await signIn(browser, 'joss');
  const name = `round-${Date.now()}`;
  await joss.request.post('/api/admin/users', {
    data: { name: `Kim ${name}`, email: `${name}@wharfside.example`, password: 'long-bikes-carry' },
  });
  return signIn(browser, name);
}

test('a round of twelve is answered with a key or a line each, within 90 s of operators', async ({
  browser,
}) => {
  const page = await newRep(browser);
  for (let at = 1; at <= 12; at++)
    await page.request.post('/api/tasks', {
      data: {
        title: `Call number ${at}`,
        kind: 'call',
        dueAt: `2026-01-${String(at).padStart(2, '0')}T00:00:00Z`,
      },
    });
  await page.goto('/round');
  const lines = page.locator('[data-round-line]');
  await expect(lines).toHaveCount(12);
  const measure = await meter(page);
  for (let left = 12; left > 6; left--) {
    await page.keyboard.press('d');
    await expect(lines).toHaveCount(left - 1);
  }
  let typed = 0;
  for (let left = 6; left > 0; left--) {
    await page.keyboard.press('l');
    const field = page.locator('[data-round-line][aria-current] .day input');
    await expect(field).toBeFocused();
    await page.keyboard.type('in 2 weeks');
    typed += 'in 2 weeks'.length;
    await page.keyboard.press('Enter');
    await expect(lines).toHaveCount(left - 1);
  }
  const effort = await measure();
  console.log(
    `effort: a round of twelve: ${effort.seconds} s (${effort.keys} keys, of which ${typed} are the days themselves, ${effort.clicks} clicks)`,
  );
  expect(effort.seconds).toBeLessThanOrEqual(90);
  await expect(page.getByText('Nothing is waiting for you today.', { exact: false })).toBeVisible();
});

test('says why each line is where it is, by keys and by hand; what was put off comes back with a new word', async ({
  browser,
}) => {
  const page = await newRep(browser);
  const me = (await (await page.request.get('/api/session')).json()) as { id: string };
  const made = await page.request.post('/api/people', {
    data: { fullName: `Waiting ${Date.now()}`, ownerId: me.id },
  });
  const { person } = (await made.json()) as { person: { id: string; fullName: string } };
  const say = (headline: string) =>
    page.request.post('/api/ledger/entries', {
      data: { kind: 'mail', side: 'theirs', headline, about: [{ personId: person.id }] },
    });
  await say('Could you send us the quote by Friday?');
  await page.request.post('/api/tasks', {
    data: { title: 'Sort the samples', dueAt: new Date().toISOString() },
  });
  await page.goto('/round');
  const lines = page.locator('[data-round-line]');
  await expect(lines).toHaveCount(2);
  const turn = lines.filter({ hasText: person.fullName });
  await expect(turn).toContainText('Our turn since');
  await turn.getByRole('button', { name: `why ${person.fullName} stands here` }).click();
  await expect(turn).toContainText('It is our turn');
  await turn.getByRole('button', { name: `Later: ${person.fullName}` }).click();
  await turn.getByRole('textbox').fill('in 3 working days');
  await page.keyboard.press('Enter');
  await expect(lines).toHaveCount(1);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(lines).toHaveCount(2);
  await turn.getByRole('button', { name: `Later: ${person.fullName}` }).click();
  await turn.getByRole('textbox').fill('in 3 working days');
  await page.keyboard.press('Enter');
  await expect(lines).toHaveCount(1);
  await say('And what does the trailer cost?');
  await expect(lines).toHaveCount(2);
  await turn.getByRole('button', { name: `Answered: ${person.fullName}` }).click();
  await expect(lines).toHaveCount(1);
  await page.getByRole('link', { name: 'Sort the samples' }).click();
  await expect(page.getByRole('complementary', { name: 'Task' })).toBeVisible();
});

test('a rhythm is set on a person, and its quiet people come into the round', async ({ browser }) => {
  const page = await newRep(browser);
  const me = (await (await page.request.get('/api/session')).json()) as { id: string };
  const made = await page.request.post('/api/people', {
    data: { fullName: `Quiet ${Date.now()}`, ownerId: me.id },
  });
  const { person } = (await made.json()) as { person: { id: string; fullName: string } };
  await page.request.post('/api/ledger/entries', {
    data: {
      kind: 'call',
      side: 'ours',
      outcome: 'spoke',
      headline: 'Called about the trailer',
      at: new Date(Date.now() - 40 * 86_400_000).toISOString(),
      about: [{ personId: person.id }],
    },
  });
  await page.goto(`/people/${person.id}`);
  const rhythm = page.locator('[data-rhythm]');
  await rhythm.getByRole('button', { name: /^Speak every so many days/ }).click();
  await rhythm.getByRole('textbox').fill('21');
  await page.keyboard.press('Enter');
  await expect(rhythm).toContainText('every 3 weeks');
  await expect(rhythm).toContainText('Going quiet since');
  await rhythm.getByRole('button', { name: 'Mark as important' }).click();
  await expect(rhythm.getByRole('button', { name: 'Important', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.goto('/round');
  const line = page.locator('[data-round-line]').filter({ hasText: person.fullName });
  await expect(line).toContainText('Going quiet: 40 days without a word; you plan to speak every 21 days.');
  await expect(line).toContainText('important');
});
