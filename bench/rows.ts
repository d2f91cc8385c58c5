import { chromium } from '@playwright/test';
import { hashPassword } from '@emporikon/server/session/secrets';
import { performance } from 'node:perf_hooks';
import { CHROMIUM } from './chromium';
import { framesOf, printBeside, told } from './frames';
import { openHouse, serveHouse } from './house';
import { sized } from './size';

const PEOPLE = sized(100_000, 300);
const FRAMES = sized(240, 10);
const ROW_PX = 36;
const PASSWORD = 'a bench password';
/** A turn of the wheel a frame, and somebody who looks for the end. */
const [READING, RUSHING] = [40, 4000];
const scrollBy = (px: number): string =>
  `window.scrollTo(0, (at * ${px}) % Math.max(1, document.documentElement.scrollHeight - innerHeight));`;
/** Goes to the end again and again, as long as there are more rows. */
const READ_ALL = `new Promise((resolve) => {
  const go = () => {
    window.scrollTo(0, document.documentElement.scrollHeight);
    if (document.documentElement.scrollHeight >= ${PEOPLE * ROW_PX}) resolve();
    else setTimeout(go, 5);
  };
  go();
})`;

/**
 * A view of a hundred thousand people in headless Chromium: all of its rows are read by scrolling, and then frames are counted
 * while it scrolls. The floor is a page as tall, with as many plain rows as are drawn at once.
 */
async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  await user.update({ passwordHash: await hashPassword(PASSWORD) });
  await sequelize.query(
    `INSERT INTO people (id, full_name, given_name, family_name, name_key, job_title, standing, tags, owner_id, created_at, updated_at)
     SELECT gen_random_uuid(), 'Person ' || lpad(n::text, 6, '0'), '', '', 'person ' || n, 'Buyer', 'prospect', '{fair}', :owner, now(), now()
       FROM generate_series(1, ${PEOPLE}) n`,
    { replacements: { owner: user.id } },
  );
  await sequelize.query('ANALYZE people');
  const { app, url } = await serveHouse(tools);
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: url });
  await page.setContent(
    `<body style="margin:0;height:${PEOPLE * ROW_PX}px">${Array.from(
      { length: 60 },
      (_, at) =>
        `<div style="height:${ROW_PX - 1}px;border-bottom:1px solid #999">Person ${at} Buyer prospect</div>`,
    ).join('')}</body>`,
  );
  const floors = [
    told('reading on in plain rows', await framesOf(page, scrollBy(READING), FRAMES)),
    told('rushing through plain rows', await framesOf(page, scrollBy(RUSHING), FRAMES)),
  ];
  const post = async (path: string, data: object): Promise<{ view?: { id: string } }> => {
    const answer = await page.request.post(path, { data, headers: { origin: url } });
    if (!answer.ok()) throw new Error(`${path}: ${answer.status()} ${await answer.text()}`);
    return (await answer.json()) as { view?: { id: string } };
  };
  await post('/api/session', { email: user.email, password: PASSWORD });
  const query = {
    kind: 'person',
    order: [{ field: 'fullName', direction: 'asc' }],
    columns: ['fullName', 'jobTitle', 'standing', 'tags', 'owner', 'createdAt'],
  };
  const { view } = await post('/api/views', { name: 'Everybody', query });
  const began = performance.now();
  await page.goto(`/people/views/${view?.id ?? ''}`);
  await page.getByRole('link', { name: 'Person 000001' }).waitFor();
  const shown = performance.now() - began;
  await page.evaluate(READ_ALL);
  const read = performance.now() - began;
  const drawn = await page.locator('tbody tr').count();
  await page.evaluate('window.scrollTo(0, 0)');
  const measured = [
    told('reading on', await framesOf(page, scrollBy(READING), FRAMES)),
    told('rushing through', await framesOf(page, scrollBy(RUSHING), FRAMES)),
  ];
  console.log(
    `${PEOPLE} rows: the first after ${shown.toFixed(0)} ms, all read by scrolling after ${(read / 1000).toFixed(1)} s, ${drawn} drawn at once`,
  );
  for (const [at, floor] of floors.entries()) printBeside(floor, measured[at] ?? floor);
  await browser.close();
  await app.close();
  await sequelize.close();
}

await main();
