import { performance } from 'node:perf_hooks';
import { chromium } from '@playwright/test';
import { hashPassword } from '@emporikon/server/session/secrets';
import { CHROMIUM } from './chromium';
import { framesOf, printBeside, told } from './frames';
import { openHouse, serveHouse } from './house';
import { sized } from './size';

const DEALS = sized(2000, 40);
const PASSWORD = 'a bench password';
const FRAMES = sized(240, 10);
const BOXES = 105;

const SCROLL = `const box = document.querySelector('.scroller') ?? document.scrollingElement; box.scrollTop = (at * 40) % Math.max(1, box.scrollHeight - innerHeight);`;
const DRAG = `
  const card = document.querySelector('[data-deal]');
  card.style.transform = 'translate(' + (at * 5 % 600) + 'px,' + (at * 3 % 400) + 'px)';
  const lanes = document.querySelectorAll('[data-lane]');
  lanes[at % lanes.length].dispatchEvent(new DragEvent('dragover', { bubbles: true, cancelable: true }));
  lanes[(at + 1) % lanes.length].dispatchEvent(new DragEvent('dragleave', { bubbles: true }));`;

/** Two thousand open deals on the board in headless Chromium: frames while scrolling and while one is dragged. The floor is a page of as many plain boxes, as tall, doing the same. */
async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  await user.update({ passwordHash: await hashPassword(PASSWORD) });
  await sequelize.query(
    `INSERT INTO stages (id, pipeline_id, name, position, kind, probability, typical_days)
     SELECT gen_random_uuid(), (SELECT id FROM pipelines), 'Stage ' || n, n, CASE n WHEN 6 THEN 'won' WHEN 7 THEN 'lost' ELSE 'open' END, least(100, n * 15), 10 FROM generate_series(1, 7) n`,
  );
  await sequelize.query(
    `INSERT INTO deals (id, title, stage_id, stage_since, amount_minor, currency, probability, expected_close, owner_id, created_at, updated_at)
     SELECT gen_random_uuid(), 'Deal ' || n, (SELECT id FROM stages WHERE position = 1 + n % 5),
            now() - (n * 7 % 60) * interval '1 day', 100000 + n * 1000, 'EUR', 30, current_date + n % 90, :owner, now(), now() FROM generate_series(1, ${DEALS}) n`,
    { replacements: { owner: user.id } },
  );
  const { app, url } = await serveHouse(tools);
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: url });
  const height = (DEALS / 5 / 6) * 50 * 5;
  await page.setContent(
    `<body style="margin:0;height:${height}px;position:relative">${Array.from(
      { length: BOXES },
      (_, at) =>
        `<div data-deal data-lane style="position:absolute;left:${(at * 190) % 1100}px;top:${Math.floor(at / 6) * 50}px;width:184px;height:45px;border:1px solid #999">Deal ${at}</div>`,
    ).join('')}</body>`,
  );
  const floors = [
    told('scrolling a page of plain boxes', await framesOf(page, SCROLL, FRAMES)),
    told('dragging one of plain boxes', await framesOf(page, DRAG, FRAMES)),
  ];
  await page.request.post('/api/session', {
    data: { email: user.email, password: PASSWORD },
    headers: { origin: url },
  });
  const asked = performance.now();
  const { items } = (await (await page.request.get('/api/pipelines')).json()) as { items: { id: string }[] };
  const answer = await page.request.get(`/api/pipelines/${items[0]?.id ?? ''}/board`);
  const size = (await answer.body()).length;
  const answered = performance.now() - asked;
  const began = performance.now();
  await page.goto('/deals');
  await page.locator('[data-deal]').first().waitFor();
  const shown = performance.now() - began;
  const drawn = await page.locator('[data-deal]').count();
  const scrolled = told('scrolling', await framesOf(page, SCROLL, FRAMES));
  await page.evaluate("document.querySelector('.scroller').scrollTop = 0");
  const dragged = told('dragging', await framesOf(page, DRAG, FRAMES));
  console.log(`the board answers in ${answered.toFixed(0)} ms with ${(size / 1e6).toFixed(2)} MB`);
  console.log(
    `${DEALS} open deals: on the screen after ${shown.toFixed(0)} ms, ${drawn} cards drawn at once`,
  );
  for (const [at, measured] of [scrolled, dragged].entries()) printBeside(floors[at] ?? measured, measured);
  await browser.close();
  await app.close();
  await sequelize.close();
}

await main();
