import { expect, test, type Page } from './test';
import { capture, choose, signIn } from './pages';

const mailOf = (name: string, address: string, firm: string): string =>
  `From: ${name} <${address}>\nTo: arrivals@wharfside.example\nSubject: Bikes\nDate: ${new Date().toUTCString().replace('GMT', '+0000')}\nMessage-ID: <${address}>\n\nHello,\n\nWe need five long bikes for our rounds. Our budget is 25,000 euros. My brother and I sign together.\n\nBest wishes\n\n${name}\nOwner\n${firm}\n`.replace(
    /\n/g,
    '\r\n',
  );

async function filed(page: Page, raw: string): Promise<{ lead: string; person: string; company: string }> {
  const id = await capture(page, raw);
  const response = await page.request.post(`/api/captures/${id}/filing`, { data: { person: 'new' } });
  const body = (await response.json()) as {
    lead: { id: string };
    person: { id: string };
    company: { id: string };
  };
  return { lead: body.lead.id, person: body.person.id, company: body.company.id };
}
const post = async <T>(page: Page, path: string, data: object): Promise<T> =>
  (await (await page.request.post(path, { data })).json()) as T;

test('a lead is converted with everybody, answers are taken in their words, and all of it is taken back', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const { lead, company } = await filed(
    page,
    mailOf('Hedda Quarn', 'hedda@quarnbakery.example', 'Quarn Bakery'),
  );
  await post(page, '/api/people', {
    fullName: 'Osric Quarn',
    jobTitle: 'Head of Finance',
    companyId: company,
  });
  await page.goto(`/leads/${lead}`);
  await page.getByRole('button', { name: /Answer with “My brother and I sign together/ }).click();
  await expect(page.getByRole('textbox', { name: /^Who decides/ })).toHaveValue(
    'My brother and I sign together.',
  );
  await page.getByRole('button', { name: /Where Note comes from/ }).click();
  await expect(page.getByRole('dialog').locator('mark.lit')).toHaveText('My brother and I sign together.');
  await page.getByRole('button', { name: 'Close' }).first().click();
  const parts = page.getByRole('group', { name: 'People on this deal' });
  await parts.getByLabel('Osric Quarn', { exact: true }).check();
  await expect(parts.getByLabel('Role of Osric Quarn')).toHaveValue('pays');
  await choose(parts.getByLabel('Role of Osric Quarn'), 'influences');
  await expect(page.getByText(/The deal keeps: Hedda Quarn, Quarn Bakery, 1 ledger entry/)).toBeVisible();
  await page.getByRole('button', { name: 'Convert' }).click();
  await page.getByRole('link', { name: 'Open the deal' }).click();
  await expect(page.getByLabel('Role of Hedda Quarn')).toHaveValue('decides');
  await expect(page.getByLabel('Role of Osric Quarn')).toHaveValue('influences');
  await page.getByRole('link', { name: 'From the lead' }).click();
  await page.getByRole('button', { name: 'Undo the conversion' }).click();
  await expect(page.getByRole('button', { name: 'Convert' })).toBeVisible();
});

test('an open deal there is already is offered, so that none is doubled', async ({ browser }) => {
  const page = await signIn(browser);
  const { person } = await post<{ person: { id: string; company: { id: string } } }>(page, '/api/people', {
    fullName: 'Ylva Tarn',
    companyName: 'Tarn Florists',
  });
  const { deal } = await post<{ deal: { id: string } }>(page, '/api/deals', {
    title: 'Tarn, 2 trailers',
    personId: person.id,
    companyId: person.company.id,
  });
  const { lead } = await post<{ lead: { id: string } }>(page, '/api/leads', {
    title: 'Tarn again',
    personId: person.id,
  });
  await page.goto(`/leads/${lead.id}`);
  await choose(
    page.getByLabel('Open deals and leads'),
    'Tarn, 2 trailers, Heard out, No value yet: they have a part in it',
  );
  await page.getByRole('button', { name: 'Convert' }).click();
  await expect(page.getByText('Added to Tarn, 2 trailers.')).toBeVisible();
  await page.getByRole('link', { name: 'Open the deal' }).click();
  await expect(page).toHaveURL(new RegExp(deal.id));
});

test('people are related, a circle is told and not drawn, and who moves on was there', async ({
  browser,
}) => {
  const page = await signIn(browser);
  const add = async (fullName: string) =>
    (
      await post<{ person: { id: string; company: { id: string } } }>(page, '/api/people', {
        fullName,
        companyName: 'Kelp & Line',
      })
    ).person;
  const [ada, bram] = [await add('Ada Kelpling'), await add('Bram Kelpling')];
  const relate = async (id: string, other: string): Promise<void> => {
    await page.goto(`/people/${id}`);
    await page.getByRole('button', { name: 'Relations and companies' }).click();
    await page.getByRole('group', { name: 'A relation' }).getByLabel('Person').fill(other);
    await expect(page.getByRole('option').first()).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(
      page.getByRole('region', { name: 'Relations' }).getByRole('link', { name: other }),
    ).toBeVisible();
  };
  await relate(ada.id, 'Bram Kelpling');
  await relate(bram.id, 'Ada Kelpling');
  await page.goto(`/companies/${ada.company.id}`);
  await page.getByRole('button', { name: 'Org chart' }).click();
  await expect(page.getByText(/which would make a circle/)).toBeVisible();
  const chart = page.getByRole('group', { name: 'Who reports to whom' });
  await expect(chart.getByRole('link')).toHaveCount(2);
  await expect(chart.locator('path')).toHaveCount(1);

  await page.goto(`/people/${ada.id}`);
  await page.getByRole('button', { name: 'Relations and companies' }).click();
  await page.getByLabel('Company they work for').fill('Coral Crumb');
  await expect(page.getByRole('option').first()).toBeVisible();
  await page.keyboard.press('Enter');
  await page.getByLabel('Their main company now').check();
  await page.getByRole('form', { name: 'A company' }).getByRole('button', { name: 'Add' }).click();
  await expect(page.getByRole('link', { name: 'Coral Crumb' }).first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'Relations' })).toContainText(/was\s+at\s+Kelp & Line/);
  await page.goto(`/companies/${ada.company.id}`);
  await page.getByRole('button', { name: 'Org chart' }).click();
  await expect(page.getByText('Used to work here')).toBeVisible();
});
