import { chromium, type Page } from '@playwright/test';
import { hashPassword } from '@emporikon/server/session/secrets';
import { CHROMIUM } from './chromium';
import { openHouse, serveHouse } from './house';
import { sized } from './size';

const PAGES = sized(40, 6);
const PASSWORD = 'a bench password';
/** After a change pages settle, read and are quiet; so long without a request is the end of it. */
const QUIET_MS = 1500;

/** Waits until no page has asked for anything for a while. @returns how many requests there were */
async function requestsUntilQuiet(counter: { requests: number }): Promise<number> {
  const before = counter.requests;
  for (let last = -1; last !== counter.requests;) {
    last = counter.requests;
    await new Promise((resolve) => setTimeout(resolve, QUIET_MS));
  }
  return counter.requests - before;
}

/** Forty pages are open, each a dossier of its own person but for a few lists; one person is changed, and the requests of all pages are counted. The floor is one for each page that shows the person. */
async function main(): Promise<void> {
  const { sequelize, tools, user } = await openHouse();
  await user.update({ passwordHash: await hashPassword(PASSWORD) });
  const { app, live, url } = await serveHouse(tools);
  await live.start();
  const browser = await chromium.launch(CHROMIUM);
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, baseURL: url });
  const post = async (path: string, data: object): Promise<{ person: { id: string; version: number } }> => {
    const answer = await context.request.post(path, { data, headers: { origin: url } });
    if (!answer.ok()) throw new Error(`${path}: ${answer.status()} ${await answer.text()}`);
    return (await answer.json()) as { person: { id: string; version: number } };
  };
  await post('/api/session', { email: user.email, password: PASSWORD });
  const people: string[] = [];
  for (let at = 0; at < PAGES - 3; at++)
    people.push((await post('/api/people', { fullName: `Person Number${at}` })).person.id);
  const paths = [...people.map((id) => `/people/${id}`), '/people', '/companies', '/deals'];
  const counter = { requests: 0, paths: new Map<string, number>() };
  const pages: Page[] = [];
  for (const path of paths) {
    const page = await context.newPage();
    page.on('request', (request) => {
      if (new URL(request.url()).pathname.startsWith('/api/') && !request.url().endsWith('/api/events')) {
        counter.requests++;
        const path = new URL(request.url()).pathname.replace(/[0-9a-f-]{36}/, ':id');
        counter.paths.set(path, (counter.paths.get(path) ?? 0) + 1);
      }
    });
    await page.goto(path);
    pages.push(page);
  }
  const opening = await requestsUntilQuiet(counter);
  counter.paths.clear();
  const [first = ''] = people;
  const { version } = (await (await context.request.get(`/api/people/${first}`)).json()) as {
    version: number;
  };
  const changed = await context.request.patch(`/api/people/${first}`, {
    data: { version, jobTitle: 'Buyer' },
    headers: { origin: url },
  });
  if (!changed.ok()) throw new Error(`the change: ${changed.status()}`);
  const after = await requestsUntilQuiet(counter);
  for (const [path, count] of [...counter.paths].sort((a, b) => b[1] - a[1]))
    process.stdout.write(`${String(count).padStart(5)}  ${path}\n`);
  process.stdout.write(
    `${PAGES} pages open (${opening} requests at most while the last one opened): one person changed, ${after} requests in all; floor 2 (the dossier and the list), ratio ${(after / 2).toFixed(1)}\n`,
  );
  await browser.close();
  await app.close();
  await live.stop();
  await sequelize.close();
}

await main();
