import type { CaptureDetail } from '@emporikon/contract/captures';
import { call, Refused, Unreachable } from './server';
import { el } from './dom';
import { fileConversation } from './conversation';
import { filePerson } from './person';
import { fileList } from './list';
import { account, keep, kept, type Account } from './store';

export interface Page {
  url: string;
  title: string;
  html: string;
}

const main = document.getElementById('sheet') as HTMLElement;
export const show = (...parts: (Node | string | null)[]): void =>
  main.replaceChildren(...parts.filter((one): one is Node | string => one !== null));

export const close = (): void => void chrome.runtime.sendMessage({ type: 'close' });
const closeButton = (): HTMLElement => el('button', { type: 'button', click: close }, 'Close');

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
      'Give it one',
    ),
    closeButton(),
  );
}

/** The program is down: what is decided now is kept with the page and sent later. */
async function offline(page: Page): Promise<void> {
  const note = el('textarea', { name: 'note', rows: '3', 'aria-label': 'Note' });
  const tags = el('input', { name: 'tags', 'aria-label': 'Tags, parted by commas' });
  const said = el('p', { role: 'status' });
  const store = async (): Promise<void> => {
    await keep({
      id: crypto.randomUUID(),
      url: page.url,
      title: page.title,
      html: page.html,
      filing: {
        as: 'lead',
        ...(note.value.trim() ? { note: note.value.trim() } : {}),
        ...(tags.value.trim() ? { tags: split(tags.value) } : {}),
      },
      at: new Date().toISOString(),
    });
    said.textContent = 'Kept. It is sent and filed when Emporikon answers again.';
  };
  const waiting = (await kept()).length;
  show(
    el('h1', {}, page.title),
    el('p', { class: 'maybe' }, 'Emporikon does not answer.'),
    el(
      'p',
      { class: 'soft' },
      `Clip it all the same: the page is kept here and sent later.${waiting ? ` ${waiting} wait already.` : ''}`,
    ),
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
    const capture = await read(mine, page);
    if (capture.page?.kind === 'list') return fileList(mine, capture);
    if (capture.page?.kind === 'messages') return fileConversation(mine, capture);
    return await filePerson(mine, capture);
  } catch (error) {
    if (error instanceof Unreachable) return offline(page);
    if (error instanceof Refused && error.status === 401) return signIn();
    show(tellProblem(error), closeButton());
  }
}

document.addEventListener('keydown', (event) => {
  if (event.key === 'Escape') close();
});
void start();
