import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import {
  chromium,
  expect,
  type Browser,
  type BrowserContext,
  type Locator,
  type Page,
} from '@playwright/test';
import { createTransport } from 'nodemailer';
import { CLIPPER_ORIGIN } from '@emporikon/contract/clipper';
import { CHROMIUM_ARGS } from './playwright.config';
import { watch } from './test';

export const urlOf = (which: 'first' | 'second' = 'first'): string =>
  (which === 'first' ? process.env.E2E_URL : process.env.E2E_SECOND_URL) ?? '';

/** A signed-in page in a browser context of its own. */
export async function signIn(
  browser: Browser,
  who = 'pell',
  options: {
    which?: 'first' | 'second';
    colorScheme?: 'light' | 'dark';
    viewport?: { width: number; height: number };
    hasTouch?: boolean;
    /** A phone: its finger is coarse, and the page as wide as it says. */
    isMobile?: boolean;
  } = {},
): Promise<Page> {
  const context = await browser.newContext({
    baseURL: urlOf(options.which),
    colorScheme: options.colorScheme ?? 'light',
    viewport: options.viewport ?? { width: 1280, height: 800 },
    locale: 'en-GB',
    hasTouch: options.hasTouch ?? options.isMobile ?? false,
    isMobile: options.isMobile ?? false,
  });
  const page = await context.newPage();
  await page.goto('/');
  await page.getByLabel('Email').fill(`${who}@wharfside.example`);
  await page.getByLabel('Password').fill('long-bikes-carry');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/arrivals');
  await expect(page.getByRole('heading', { name: 'What came in' })).toBeVisible();
  return page;
}

/** Somebody outside sends a message to the firm, by the post office. */
export async function postMail(raw: string): Promise<void> {
  const transport = createTransport({
    host: '127.0.0.1',
    port: Number(process.env.E2E_POST_PORT),
    secure: false,
    ignoreTLS: true,
  });
  await transport.sendMail({
    envelope: { from: 'x@crowd.example', to: 'arrivals@wharfside.example' },
    raw: raw.replace(/\r?\n/g, '\r\n'),
  });
  transport.close();
}

/** Chooses from a list: it is opened with the keyboard, and the option taken by its name. */
export async function choose(field: Locator, option: string | RegExp): Promise<void> {
  await field.waitFor();
  const taken = field.page().getByRole('option', { name: option, exact: true });
  // A list that is pressed open while its dialog still moves can close again.
  await expect(async () => {
    if (!(await taken.isVisible())) await field.press('ArrowDown');
    await taken.click({ timeout: 5000 });
  }).toPass();
}

const CLIPPER = join(import.meta.dirname, '../clipper');

/** A browser of its own with the real extension in it, signed in by its options page. */
export async function openWithClipper(token: string): Promise<BrowserContext> {
  const context = await chromium.launchPersistentContext(mkdtempSync(join(tmpdir(), 'clipper-')), {
    executablePath: '/usr/bin/chromium',
    headless: true,
    args: [
      ...CHROMIUM_ARGS,
      '--headless=new',
      `--disable-extensions-except=${CLIPPER}`,
      `--load-extension=${CLIPPER}`,
    ],
    viewport: { width: 1280, height: 800 },
  });
  watch(context);
  const page = await context.newPage();
  await page.goto(`${CLIPPER_ORIGIN}/options.html`);
  await page.getByLabel('Address of Emporikon').fill(urlOf());
  await page.getByLabel('Access token, made in Settings').fill(token);
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('status')).toHaveText(/^Signed in as /);
  await page.close();
  return context;
}

/** Begins anywhere, because a failed test starts a new worker that must not make up the same people again. */
let serial = Date.now() % 100_000;

export interface MadeMail {
  name: string;
  company: string;
  raw: string;
}

const GIVEN = [
  'Alba',
  'Bruno',
  'Chiara',
  'Dario',
  'Elsa',
  'Fergus',
  'Gwen',
  'Henk',
  'Isla',
  'Jonas',
  'Karin',
  'Luca',
];
const FAMILY = [
  'Arkwright',
  'Bellweather',
  'Castellan',
  'Dunmore',
  'Eberhart',
  'Fairbairn',
  'Goldacre',
  'Hollander',
  'Inglewood',
  'Jarrow',
  'Kilbride',
  'Lockwood',
];

/** A message by somebody new; every call makes up another person. */
export function makeMail(subject = 'Bikes for our rounds'): MadeMail {
  const at = serial++;
  const letters = [...String(at)].map((digit) => 'abcdefghij'[Number(digit)] ?? '').join('');
  const family = `${FAMILY[at % FAMILY.length] ?? 'Arkwright'}${letters}`;
  const name = `${GIVEN[(at * 5 + 3) % GIVEN.length] ?? 'Alba'} ${family}`;
  const company = `${family} Bakery`;
  const address = `${name.split(' ')[0]?.toLowerCase() ?? ''}@${family.toLowerCase()}bakery${at}.example`;
  const raw =
    `From: ${name} <${address}>\nTo: arrivals@wharfside.example\nSubject: ${subject}\nDate: ${new Date().toUTCString().replace('GMT', '+0000')}\nMessage-ID: <e2e-${at}-${Date.now()}@test.example>\n\nHello,\n\nCould you send a quote for six bikes? We can spend about 30,000 euros.\n\nBest wishes,\n\n${name}\nHead Baker\n${company}\nM 07700 900${String(at % 1000).padStart(3, '0')}\n`.replace(
      /\n/g,
      '\r\n',
    );
  return { name, company, raw };
}

/** Puts a message into Arrivals by the API, as the signed-in page's person; gives the capture's id. */
export async function capture(page: Page, raw: string): Promise<string> {
  const response = await page.request.post('/api/captures?by=upload', {
    headers: { 'content-type': 'message/rfc822' },
    data: raw,
  });
  return ((await response.json()) as { id: string }).id;
}
