import PDFDocument from 'pdfkit';
import { signIn } from './pages';
import { expect, test, type Page } from './test';

async function makePerson(page: Page, fullName: string): Promise<string> {
  const made = await page.request.post('/api/people', { data: { fullName } });
  return ((await made.json()) as { person: { id: string } }).person.id;
}
async function pdf(words: string): Promise<Buffer> {
  const doc = new PDFDocument();
  const parts: Buffer[] = [];
  doc.on('data', (part: Buffer) => parts.push(part));
  const ended = new Promise((resolve) => doc.on('end', resolve));
  doc.fontSize(40).text(words).addPage().text('the second page').end();
  await ended;
  return Buffer.concat(parts);
}
/** Drops files on an element as a file manager does. */
async function drop(page: Page, selector: string, files: { name: string; text: string }[]): Promise<void> {
  const dataTransfer = await page.evaluateHandle((given) => {
    const transfer = new DataTransfer();
    for (const { name, text } of given) transfer.items.add(new File([text], name));
    return transfer;
  }, files);
  for (const kind of ['dragenter', 'dragover', 'drop'])
    await page.dispatchEvent(selector, kind, { dataTransfer });
}

test('files dropped anywhere on a record stand in its ledger, are found by their words, and can be taken back', async ({
  browser,
}) => {
  test.setTimeout(120_000);
  const page = await signIn(browser);
  const mark = `Drop${Date.now() % 1_000_000}`;
  await page.goto(`/people/${await makePerson(page, `Fay ${mark}`)}`);
  await expect(page.getByRole('heading', { name: 'What happened' })).toBeVisible();
  await drop(page, 'main', [{ name: `${mark} tour.txt`, text: `The quagga ${mark} route` }]);
  await expect(page.getByText(`Added ${mark} tour.txt.`)).toBeVisible();
  const entry = page.locator('[data-entry]').filter({ hasText: `${mark} tour.txt` });
  await expect(entry).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(entry).toHaveCount(0);

  await drop(page, 'main', [
    { name: `${mark} first.txt`, text: `One ${mark}` },
    { name: `${mark} second.txt`, text: `Two ${mark}` },
  ]);
  await expect(page.getByText('Added 2 files.', { exact: true })).toBeVisible();
  await expect(page.locator('[data-entry]').filter({ hasText: '.txt' })).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.locator('[data-entry]').filter({ hasText: '.txt' })).toHaveCount(0);

  await drop(page, 'main', [
    { name: `${mark} tour.txt`, text: `The quagga ${mark} route` },
    { name: `${mark} tool.exe`, text: 'anything' },
  ]);
  const refused = page.getByRole('list', { name: 'Files being added' });
  await expect(refused).toContainText(`${mark} tool.exe is a program`);
  await page.getByRole('button', { name: `Dismiss ${mark} tool.exe` }).click();
  await expect(refused).toHaveCount(0);
  await page.getByRole('button', { name: 'Files', exact: true }).click();
  const panel = page.getByRole('complementary', { name: 'Files' });
  await expect(panel.getByRole('link', { name: `${mark} tour.txt` })).toBeVisible();
  // Words are read in the background, and the list says nothing of it.
  await expect(async () => {
    await panel.getByRole('textbox', { name: 'Find a file' }).fill('');
    await panel.getByRole('textbox', { name: 'Find a file' }).fill(`quagg ${mark}`);
    await expect(panel.getByRole('link', { name: `${mark} tour.txt` })).toBeVisible({ timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await panel.getByRole('textbox', { name: 'Find a file' }).fill('okapi');
  await expect(panel.getByText('Nothing here matches.')).toBeVisible();
  await panel.getByRole('textbox', { name: 'Find a file' }).fill('');
  await panel.getByRole('link', { name: `${mark} tour.txt` }).click();
  const file = page.getByRole('complementary', { name: 'File' });
  await expect(file.getByText(`The quagga ${mark} route`)).toBeVisible();

  await page.keyboard.press('Control+k');
  await page.keyboard.type(`quagga ${mark}`);
  await page.getByRole('option', { name: new RegExp(`${mark} tour.txt`) }).click();
  await expect(page).toHaveURL(/file=/);
});

test('a PDF is looked at in the page; a newer version keeps the earlier one; a task has files too', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const mark = Date.now() % 1_000_000;
  const id = await makePerson(page, `Gil Paper${mark}`);
  await page.goto(`/people/${id}`);
  await page.getByRole('button', { name: 'Files', exact: true }).click();
  const choose = page.getByRole('complementary', { name: 'Files' }).locator('input[type=file]');
  await choose.setInputFiles({
    name: `plan ${mark}.pdf`,
    mimeType: 'application/pdf',
    buffer: await pdf('Six bikes'),
  });
  await page
    .getByRole('complementary', { name: 'Files' })
    .getByRole('link', { name: `plan ${mark}.pdf` })
    .click();
  const file = page.getByRole('complementary', { name: 'File' });
  await expect(file.getByRole('img', { name: 'Page 2 of' })).toBeVisible();
  // Something is drawn: not all of the page has one colour.
  await expect
    .poll(() =>
      file.getByRole('img', { name: 'Page 1 of' }).evaluate((canvas: HTMLCanvasElement) => {
        const { data = [] } = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height) ?? {};
        return new Set(Array.from(data).filter((_, at) => at % 4 === 0)).size > 1;
      }),
    )
    .toBe(true);
  await file.locator('input[type=file]').setInputFiles({
    name: `plan ${mark}.pdf`,
    mimeType: 'application/pdf',
    buffer: await pdf('Eight bikes'),
  });
  const versions = file.getByRole('list', { name: 'Versions' });
  await expect(versions.getByRole('listitem')).toHaveCount(2);
  await versions.getByRole('button', { name: 'Version 1' }).click();
  const download = page.waitForEvent('download');
  await file.getByRole('link', { name: 'Save a copy' }).click();
  expect((await download).suggestedFilename()).toBe(`plan ${mark}.pdf`);
  await file.getByRole('button', { name: 'Close' }).click();
  await expect(page.locator('[data-entry]').filter({ hasText: 'version 2' })).toBeVisible();

  const made = await page.request.post('/api/tasks', {
    data: { title: `Send plan ${mark}`, dueAt: '2031-02-03T10:00:00Z', personId: id },
  });
  const { task } = (await made.json()) as { task: { id: string } };
  await page.goto(`/people/${id}?task=${task.id}`);
  const panel = page.getByRole('complementary', { name: 'Task' });
  await panel
    .locator('input[type=file]')
    .setInputFiles({ name: `gate ${mark}.txt`, mimeType: 'text/plain', buffer: Buffer.from('Gate four') });
  await expect(panel.getByRole('link', { name: `gate ${mark}.txt` })).toBeVisible();
});
