import { createPinia, setActivePinia } from 'pinia';
import { createApp, effectScope, type App, type EffectScope } from 'vue';

type Asked = { method: string; path: string; query: URLSearchParams; body: unknown; key: string | null };
type Answer = unknown;

/** What the server of a test answers, by method and path; a function sees what was asked. */
export type Answers = Record<string, Answer | ((asked: Asked) => Answer)>;

export interface Page {
  app: App;
  scope: EffectScope;
  /** What was asked of the server, in order. */
  asked: Asked[];
  answers: Answers;
  /** Runs something as a component of the page would. */
  run<Result>(use: () => Result): Result;
  close(): void;
}

/** A refusal as the server words it. */
export const refusal = (status: number, type: string, more: object = {}): Response =>
  new Response(
    JSON.stringify({
      type: `urn:emporikon:problem:${type}`,
      title: type,
      status,
      detail: `${type}.`,
      ...more,
    }),
    { status },
  );

/** A page without a browser: its state, and a server that answers from a table. Anything else it asks is an error. */
export function openPage(answers: Answers = {}): Page {
  const asked: Asked[] = [];
  const pinia = createPinia();
  setActivePinia(pinia);
  const app = createApp({}).use(pinia);
  const scope = effectScope();
  jest.spyOn(globalThis, 'fetch').mockImplementation(async (input, init) => {
    const url = new URL(String(input), 'http://page.example');
    const one: Asked = {
      method: init?.method ?? 'GET',
      path: url.pathname,
      query: url.searchParams,
      body: typeof init?.body === 'string' ? (JSON.parse(init.body) as unknown) : undefined,
      key: new Headers(init?.headers).get('idempotency-key'),
    };
    asked.push(one);
    const known = answers[`${one.method} ${one.path}`];
    if (known === undefined) throw new Error(`nobody answers ${one.method} ${one.path}`);
    const answer: unknown =
      typeof known === 'function' ? await (known as (asked: Asked) => unknown)(one) : known;
    return answer instanceof Response ? answer : new Response(JSON.stringify(answer), { status: 200 });
  });
  return {
    app,
    scope,
    asked,
    answers,
    run: <Result>(use: () => Result): Result => app.runWithContext(() => scope.run(use) as Result),
    close() {
      scope.stop();
      jest.restoreAllMocks();
    },
  };
}

/** Lets what waits for promises go on. */
export const settle = async (): Promise<void> => {
  for (let turn = 0; turn < 12; turn++) await Promise.resolve();
  await new Promise((resolve) => setImmediate(resolve));
};
