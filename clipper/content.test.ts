import { openExtension, settle, type Extension } from './testing/extension';

/** A script of a page and not a module: it has nothing to import but what it does. */
const SCRIPT: string = './content';
let extension: Extension;
beforeEach(async () => {
  extension = openExtension(
    '<a href="http://rollcall.example/in/ines?from=list">Ines Duarte</a><a href="/x">Bo Lund</a><p id="own">text</p>',
  );
  Object.assign(window, { top: window });
  await import(SCRIPT);
});
afterEach(() => jest.restoreAllMocks());
const sheet = () => document.getElementById('emporikon-clipper');
const marks = () => [...document.querySelectorAll('[data-emporikon]')].map((mark) => mark.textContent);

it('does nothing until it is asked, then opens once, and leaves nothing behind', async () => {
  expect(sheet()).toBeNull();
  await extension.send({ type: 'open' });
  await extension.send({ type: 'open' });
  expect(document.querySelectorAll('iframe')).toHaveLength(1);
  expect(sheet()?.getAttribute('src')).toBe('chrome-extension://clipper/sheet.html');
  await extension.send({ type: 'close' });
  expect(sheet()).toBeNull();
});

it('gives the page as it stands, without itself and its marks', async () => {
  await extension.send({ type: 'open' });
  await extension.send({ type: 'mark', people: [{ name: 'Bo Lund', url: null, words: 'new' }] });
  const page = (await extension.send({ type: 'page' })) as { url: string; html: string };
  expect(page.url).toBe('http://rollcall.example/in/ines');
  expect(page.html).toContain('id="own"');
  expect(page.html).not.toMatch(/emporikon/);
  expect(sheet()).not.toBeNull();
});

it('marks people by their address, or else by their name, anew each time', async () => {
  const people = [
    { name: 'Somebody Else', url: 'http://rollcall.example/in/ines', words: 'we know them' },
    { name: 'Bo Lund', url: null, words: 'new' },
    { name: 'Nobody', url: null, words: 'new' },
  ];
  await extension.send({ type: 'mark', people });
  expect(marks()).toEqual([' we know them', ' new']);
  await extension.send({ type: 'mark', people: people.slice(0, 1) });
  expect(marks()).toEqual([' we know them']);
  await extension.send({ type: 'close' });
  expect(marks()).toEqual([]);
});

it('opens by its key only where a person pressed it', async () => {
  const key = (over: object): Event =>
    Object.assign(new Event('keydown', { cancelable: true }), {
      altKey: true,
      shiftKey: true,
      code: 'KeyE',
      ...over,
    });
  document.dispatchEvent(key({ isTrusted: false }));
  await settle();
  expect(sheet()).toBeNull();
});
