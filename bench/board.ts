import { performance } from 'node:perf_hooks';
import { chromium, type Page } from '@playwright/test';
import { buildApp } from '@emporikon/server/http/app';
import { rooms } from '@emporikon/server/rooms';
import { LiveFeed } from '@emporikon/server/events/live';
import { hashPassword } from '@emporikon/server/session/secrets';
import { join } from 'node:path';
import { CHROMIUM } from './chromium';
import { openHouse } from './house';
import { sized } from './size';

const DEALS = sized(2000, 40);
const PASSWORD = 'a bench password';
const FRAMES = sized(240, 10);
const BOXES = 105;

/** Times between frames while something is done in each, in ms. */
const framesOf = (page: Page, work: string): Promise<number[]> =>
  page.evaluate(
    ([count, source]) =>
      new Promise<number[]>((resolve) => {
        const step = new Function('at', String(source)) as (at: number) => void;
        const times: number[] = [];
        let last = 0;
        let at = 0;
        const frame = (now: number): void => {
          if (last) times.push(now - last);
          last = now;
          if (times.length >= Number(count)) return resolve(times);
          step(at++);
          requestAnimationFrame(frame);
        };
        requestAnimationFrame(frame);
      }),
    [FRAMES, work] as const,
  );

function told(name: string, times: readonly number[]): { name: string; fps: number; worst: number } {
  const sorted = [...times].sort((a, b) => a - b);
  const mean = times.reduce((sum, one) => sum + one, 0) / times.length;
  return { name, fps: 1000 / mean, worst: sorted[Math.floor(sorted.length * 0.95)] ?? 0 };
}

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
  const live = new LiveFeed(process.env.TEST_DATABASE_URL ?? '');
  const app = await buildApp({ tools, rooms, live, webRoot: join(process.cwd(), 'web/dist') });
  await app.listen({ host: '127.0.0.1', port: 0 });
  const address = app.server.address();
  const url = `http://127.0.0.1:${typeof address === 'object' && address ? address.port : 0}`;
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
    told('scrolling a page of plain boxes', await framesOf(page, SCROLL)),
    told('dragging one of plain boxes', await framesOf(page, DRAG)),
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
  const scrolled = told('scrolling', await framesOf(page, SCROLL));
  await page.evaluate("document.querySelector('.scroller').scrollTop = 0");
  const dragged = told('dragging', await framesOf(page, DRAG));
  console.log(`the board answers in ${answered.toFixed(0)} ms with ${(size / 1e6).toFixed(2)} MB`);
  console.log(
    `${DEALS} open deals: on the screen after ${shown.toFixed(0)} ms, ${drawn} cards drawn at once`,
  );
  for (const [at, measured] of [scrolled, dragged].entries()) {
    const floor = floors[at] ?? measured;
    for (const { name, fps, worst } of [floor, measured])
      console.log(`${name}: ${fps.toFixed(1)} frames a second, 95 per cent within ${worst.toFixed(1)} ms`);
    console.log(`ratio ${(floor.fps / measured.fps).toFixed(2)}`);
  }
  await browser.close();
  await app.close();
  await sequelize.close();
}

await main();
