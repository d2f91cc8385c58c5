import type { CaptureDetail } from '@emporikon/contract/captures';
import { call, Refused, Unreachable } from './server';
import { el } from './dom';
import { tellsOfCompanyAlone } from '@emporikon/core/reading/companyPage';
import { fileCompany } from './company';
import { fileConversation } from './conversation';
import { filePerson } from './person';
import { fileList } from './list';
import { account, keep, type Account } from './store';
import { fillWaiting } from './waiting';

export interface Page {
  url: string;
  title: string;
  html: string;
}

const main = document.getElementById('sheet') as HTMLElement;
export function show(...parts: (Node | string | null)[]): void {
  const waiting = el('div', { class: 'waiting' });
  main.replaceChildren(...parts.filter((part): part is Node | string => part !== null), waiting);
  void fillWaiting(waiting);
}

/** What was read of the page and is not filed: closing the sheet sets it aside, so that nothing of it stays in Arrivals. */
let unfiled: { mine: Account; id: string } | null = null;
export const leaveNothing = (capture: typeof unfiled): void => void (unfiled = capture);

export async function close(): Promise<void> {
  const left = unfiled;
  unfiled = null;
  if (left)
    await call(left.mine, 'POST /api/captures/:id/set-aside', { params: { id: left.id } }).catch(() => null);
  await chrome.runtime.sendMessage({ type: 'close' });
}
const closeButton = (): HTMLElement => el('button', { type: 'button', click: () => void close() }, 'Close');

/** Tells what went wrong, what was kept, and what to do. */
export function tellProblem(error: unknown): HTMLElement {
  const words = error instanceof Error ? error.message : String(error);
  return el('p', { class: 'wrong', role: 'alert' }, words);
}

function signIn(): void {
  show(
    el('h1', {}, 'Sign in first'),
    el('p', { class: 'soft' }, 'The clipper needs an access token of yours, made in Settings.'),
    el(
      'button',
      { class: 'fill', click: () => void chrome.runtime.sendMessage({ type: 'options' }) },
      'Add a token',
    ),
    closeButton(),
  );
}

/** The program is down: what is decided now is kept with the page and sent later. */
function offline(page: Page): void {
  const note = el('textarea', { name: 'note', rows: '3', 'aria-label': 'Note' });
  const tags = el('input', { name: 'tags', 'aria-label': 'Tags, separated by commas' });
  const said = el('p', { role: 'status' });
  const id = crypto.randomUUID();
  const store = async (): Promise<void> => {
    await keep({
      id,
      ...page,
      filing: {
        as: 'lead',
        ...(note.value.trim() ? { note: note.value.trim() } : {}),
        ...(tags.value.trim() ? { tags: split(tags.value) } : {}),
      },
      at: new Date().toISOString(),
    });
    said.textContent = 'Kept. It will be sent and filed when Emporikon answers again.';
  };
  show(
    el('h1', {}, page.title),
    el('p', { class: 'maybe' }, 'Emporikon does not answer.'),
    el('p', { class: 'soft' }, 'Clip it all the same: the page is kept here and sent later.'),
    el('label', {}, 'Note', note),
    el('label', {}, 'Tags', tags),
    el(
      'div',
      { class: 'foot' },
      el('button', { class: 'fill', click: () => void store() }, 'Keep it'),
      el('button', { click: () => void start() }, 'Try again'),
      closeButton(),
    ),
    said,
  );
  note.focus();
}

export const split = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

function read(mine: Account, page: Page): Promise<CaptureDetail> {
  return call(mine, 'POST /api/captures', { html: page.html, query: { by: 'clipper', url: page.url } });
}

/** Reads the page and shows what it is a page of. */
export async function start(): Promise<void> {
  const mine = await account();
  if (!mine) return signIn();
  show(el('p', { class: 'soft' }, 'Reading the page…'));
  const page = (await chrome.runtime.sendMessage({ type: 'page' })) as Page | null;
  if (!page) return show(el('p', { class: 'wrong' }, 'This page cannot be read.'), closeButton());
  try {
    void chrome.runtime.sendMessage({ type: 'send' });
    leaveNothing(null);
    const capture = await read(mine, page);
    if (capture.page?.kind === 'list') return fileList(mine, capture);
    if (capture.page?.kind === 'messages') return fileConversation(mine, capture);
    if (tellsOfCompanyAlone(capture)) return await fileCompany(mine, capture);
    return await filePerson(mine, capture, page);
  } catch (error) {
    if (error instanceof Unreachable) return offline(page);
    if (error instanceof Refused && error.status === 401) return signIn();
    show(tellProblem(error), closeButton());
  }
}

document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape') void close();
});
void start();
