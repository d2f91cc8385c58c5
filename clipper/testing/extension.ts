import { parseHTML } from 'linkedom';

type Listener = (
  message: Record<string, unknown>,
  sender: object,
  answer: (value: unknown) => void,
) => unknown;
type Asked = {
  method: string;
  path: string;
  query: URLSearchParams;
  body: unknown;
  key: string | null;
  token: string;
};

export interface Extension {
  /** What the parts of the extension said to each other. */
  said: Record<string, unknown>[];
  /** What was asked of the program, in order. */
  asked: Asked[];
  /** What the program answers, by method and path; it is down for anything else. */
  answers: Record<string, unknown>;
  stored: Record<string, unknown>;
  /** What the tab answers to a message of the sheet. */
  page: unknown;
  listeners: Listener[];
  alarms: (() => void)[];
  /** Sends a message as another part of the extension would. */
  send(message: Record<string, unknown>, sender?: object): Promise<unknown>;
  text(): string;
  button(name: string): HTMLElement;
  field(name: string): HTMLInputElement;
  submit(): Promise<void>;
}

export const refused = (status: number, detail: string): Response =>
  new Response(JSON.stringify({ detail, status }), { status });

/** Lets what waits for promises go on. */
export const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 6; turn++) await new Promise((resolve) => setImmediate(resolve));
};

/** A browser with the extension's own page open, without the extension's code; that is imported after it. */
export function openExtension(html = '<main id="sheet"></main>'): Extension {
  jest.resetModules();
  const { document, window, Event, HTMLElement, HTMLSelectElement } = parseHTML(
    `<!doctype html><html><body>${html}</body></html>`,
  );
  const extension: Extension = {
    said: [],
    asked: [],
    answers: {},
    stored: { token: 'secret', server: 'http://program.example' },
    page: { url: 'http://rollcall.example/in/ines', title: 'Ines Duarte', html: '<h1>Ines Duarte</h1>' },
    listeners: [],
    alarms: [],
    async send(message, sender = {}) {
      let result: unknown;
      await new Promise<void>((resolve) => {
        const waits = extension.listeners.map((listener) =>
          listener(message, sender, (value) => {
            result = value;
            resolve();
          }),
        );
        if (!waits.includes(true)) setImmediate(resolve);
      });
      return result;
    },
    text: () => document.body.textContent?.replace(/\s+/g, ' ').trim() ?? '',
    button(name) {
      const found = [...document.querySelectorAll('button')].find(
        (button) => button.textContent === name || button.getAttribute('aria-label') === name,
      );
      if (!found) throw new Error(`no button “${name}” in: ${extension.text()}`);
      return found as unknown as HTMLElement;
    },
    field(name) {
      const found = document.querySelector(`[name="${name}"], [aria-label="${name}"]`);
      if (!found) throw new Error(`no field “${name}”`);
      return found as unknown as HTMLInputElement;
    },
    async submit() {
      document.querySelector('form')?.dispatchEvent(new Event('submit', { cancelable: true }));
      await settle();
    },
  };
  // This small DOM reads the choice of a select and cannot set it.
  Object.defineProperty(HTMLSelectElement.prototype, 'value', {
    configurable: true,
    get(this: HTMLSelectElement) {
      const options = [...this.querySelectorAll('option')];
      return (
        (options.find((option) => option.hasAttribute('selected')) ?? options[0])?.getAttribute('value') ?? ''
      );
    },
    set(this: HTMLSelectElement, value: string) {
      for (const option of this.querySelectorAll('option'))
        option.toggleAttribute('selected', option.getAttribute('value') === value);
    },
  });
  HTMLElement.prototype.focus ??= () => undefined;
  const on = (list: unknown[]): object => ({ addListener: (listener: unknown) => list.push(listener) });
  Object.assign(globalThis, {
    document,
    window,
    Event,
    location: new URL('http://rollcall.example/in/ines'),
    chrome: {
      storage: {
        local: {
          get: (keys: string | string[]) =>
            Promise.resolve(Object.fromEntries([keys].flat().map((key) => [key, extension.stored[key]]))),
          set: (values: object) => Promise.resolve(void Object.assign(extension.stored, values)),
        },
      },
      runtime: {
        sendMessage: (message: Record<string, unknown>) => {
          extension.said.push(message);
          return Promise.resolve(message.type === 'page' ? extension.page : undefined);
        },
        onMessage: on(extension.listeners),
        onStartup: on(extension.alarms),
        openOptionsPage: () => Promise.resolve(void extension.said.push({ type: 'options opened' })),
        getURL: (path: string) => `chrome-extension://clipper/${path}`,
      },
      action: { onClicked: on([]) },
      alarms: { create: () => undefined, onAlarm: on(extension.alarms) },
      tabs: {
        sendMessage: (_tab: number, message: Record<string, unknown>) => {
          extension.said.push({ ...message, toTab: true });
          return Promise.resolve(extension.page);
        },
      },
    },
  });
  jest.spyOn(globalThis, 'fetch').mockImplementation(async (input, init) => {
    const url = new URL(input instanceof URL ? input.href : String(input));
    const headers = new Headers(init?.headers);
    const text = typeof init?.body === 'string' ? init.body : undefined;
    const one: Asked = {
      method: init?.method ?? 'GET',
      path: url.pathname,
      query: url.searchParams,
      body: text && headers.get('content-type') === 'application/json' ? (JSON.parse(text) as unknown) : text,
      key: headers.get('idempotency-key'),
      token: headers.get('authorization') ?? '',
    };
    extension.asked.push(one);
    const known = extension.answers[`${one.method} ${one.path}`];
    if (known === undefined) throw new TypeError('failed to fetch');
    const answer: unknown = typeof known === 'function' ? (known as (asked: Asked) => unknown)(one) : known;
    return answer instanceof Response ? answer : new Response(JSON.stringify(answer), { status: 200 });
  });
  return extension;
}
