/** Stands in every page and does nothing until it is asked: then it puts the side sheet beside the page. */
const ID = 'emporikon-clipper';
const WIDTH = 400;
const MARK = 'data-emporikon';

interface Marked {
  name: string;
  url: string | null;
  words: string;
}

const sheet = (): HTMLIFrameElement | null => document.getElementById(ID) as HTMLIFrameElement | null;

function open(): void {
  const there = sheet();
  if (there) return there.focus();
  const frame = document.createElement('iframe');
  frame.id = ID;
  frame.src = chrome.runtime.getURL('sheet.html');
  frame.title = 'Emporikon clipper';
  frame.style.cssText = `position:fixed;top:0;right:0;bottom:0;width:min(${WIDTH}px,100vw);height:100vh;border:0;border-left:1px solid #dacfbb;z-index:2147483647;background:#f5f0e6;color-scheme:light dark`;
  document.documentElement.append(frame);
  frame.addEventListener('load', () => frame.focus());
}

function close(): void {
  sheet()?.remove();
  for (const mark of document.querySelectorAll(`[${MARK}]`)) mark.remove();
}

/** The page as it stands now, without what we put into it. */
function pageNow(): { url: string; title: string; html: string } {
  const copy = document.documentElement.cloneNode(true) as HTMLElement;
  copy.querySelector(`#${ID}`)?.remove();
  for (const mark of copy.querySelectorAll(`[${MARK}]`)) mark.remove();
  return { url: location.href, title: document.title, html: `<!doctype html>${copy.outerHTML}` };
}

/** Says beside each name of a list whether we know them. */
function mark(people: readonly Marked[]): void {
  for (const old of document.querySelectorAll(`[${MARK}]`)) old.remove();
  const links = [...document.querySelectorAll<HTMLAnchorElement>('a[href]')];
  for (const { name, url, words } of people) {
    const at =
      links.find(
        (link) =>
          url !== null &&
          link.href.replace(/[?#].*$/, '') === url.replace(/[?#].*$/, '') &&
          link.textContent?.trim(),
      ) ?? links.find((link) => link.textContent?.trim() === name);
    if (!at) continue;
    const note = document.createElement('span');
    note.setAttribute(MARK, '');
    note.textContent = ` ${words}`;
    note.style.cssText =
      'font:600 12px system-ui,sans-serif;color:#2c6e68;background:#fffdf8;padding:0 4px;margin-left:4px';
    at.after(note);
  }
}

chrome.runtime.onMessage.addListener((message: { type?: string; people?: Marked[] }, _sender, answer) => {
  if (window.top !== window) return;
  if (message.type === 'open') open();
  else if (message.type === 'close') close();
  else if (message.type === 'mark') mark(message.people ?? []);
  else if (message.type === 'page') answer(pageNow());
});

document.addEventListener('keydown', (event) => {
  if (event.isTrusted && event.altKey && event.shiftKey && event.code === 'KeyE' && window.top === window) {
    event.preventDefault();
    open();
  }
});
