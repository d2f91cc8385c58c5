import type { LiveEvent } from '@emporikon/contract/settings';
import {
  inject,
  onScopeDispose,
  provide,
  ref,
  shallowRef,
  type InjectionKey,
  type Ref,
  type ShallowRef,
} from 'vue';
import { forgetAnswers, keepAnswers } from './answers';
import { ApiProblem, wordsOf } from './api';
import { shareStream, type LiveNotice } from './liveStream';
import { matters, shownIds } from './touched';

type Handler = (event: LiveEvent) => void;

const handlers = new Set<Handler>();
const arrivals = new Set<(recordId: string) => void>();
/** Tells of every record where somebody came, went, or began or ended to edit, until the component is gone. */
export function onPresence(handle: (recordId: string) => void): void {
  arrivals.add(handle);
  onScopeDispose(() => arrivals.delete(handle));
}
/** Whether the live feed is open; false while the server is out of reach. */
export const isLive = ref(true);
/** The build the server serves; another one than ours means that this page is from before an upgrade. */
export const servedBuild = ref<string | null>(null);

const hear = (notice: LiveNotice): void => {
  if (notice.open !== undefined) {
    isLive.value = notice.open;
    keepAnswers(notice.open);
  }
  if (notice.touched || notice.resync) forgetAnswers();
  if (notice.build) servedBuild.value = notice.build;
  if (notice.ended) onEnded();
  if (notice.touched || notice.resync) for (const handle of handlers) handle(notice);
  if (notice.presence) for (const handle of arrivals) handle(notice.presence);
};
let onEnded = (): void => undefined;
let close: (() => void) | null = null;

/**
 * Opens the live feed. After a gap everybody is told to read again.
 * @param ended what to do when the session is over, here or in another tab
 */
export function openLive(ended: () => void): void {
  onEnded = ended;
  close ??= shareStream('/api/events', hear);
}

export function closeLive(): void {
  close?.();
  close = null;
  keepAnswers(false);
}

export interface Fetched<T> {
  data: ShallowRef<T | null>;
  error: Ref<string>;
  isGone: Ref<boolean>;
  load: () => Promise<void>;
}

interface Gathering {
  begin(): void;
  end(): void;
}
const GATHER: InjectionKey<Gathering> = Symbol('gather');

/**
 * For a page of many parts that each read for themselves: whether some of them still wait for their first answer, so
 * that the page is shown at once and nothing in it moves. What is opened on the page later does not hide it again.
 */
export function gatherFetches(): Readonly<Ref<boolean>> {
  const isWaiting = ref(false);
  let waiting = 0;
  let isDone = false;
  provide(GATHER, {
    begin() {
      waiting++;
      isWaiting.value = !isDone;
    },
    end() {
      waiting--;
      isDone ||= waiting === 0;
      isWaiting.value = !isDone;
    },
  });
  return isWaiting;
}

const SETTLE_MS = 40;

/**
 * Data that keeps itself current: read once now, and again whenever an event touches one of the tables.
 * @param read gets it; the answer of an older call never replaces that of a newer one
 * @param tables tables whose changes matter
 * @param about the records it is about, where it is about certain ones: then only changes of these, or of what the answer
 *   names, matter
 */
export function useFetched<T>(
  read: () => Promise<T>,
  tables: readonly string[],
  about?: () => readonly (string | null | undefined)[],
): Fetched<T> {
  const data = shallowRef<T | null>(null);
  const error = ref('');
  const isGone = ref(false);
  const gathered = inject(GATHER, null);
  gathered?.begin();
  let newest = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last: Promise<void> = Promise.resolve();
  /** Whoever waits for an older read waits for the newest, which is what will be shown. */
  const overtaken = (): Promise<void> => (newest === Infinity ? Promise.resolve() : last);
  const readOnce = async (): Promise<void> => {
    const mine = ++newest;
    try {
      const answer = await read();
      if (mine !== newest) return await overtaken();
      data.value = answer;
      error.value = '';
      isGone.value = false;
    } catch (problem) {
      if (mine !== newest) return overtaken();
      isGone.value = problem instanceof ApiProblem && problem.problem.status === 404;
      // What is not there any more, or must not be seen any more, does not stay on the screen.
      if (isGone.value) data.value = null;
      error.value = wordsOf(problem);
    }
  };
  const load = (): Promise<void> => (last = readOnce());
  const handle: Handler = ({ touched, resync }) => {
    if (!resync && !matters(touched ?? [], tables, about && shownIds(about(), data.value))) return;
    clearTimeout(timer);
    timer = setTimeout(() => void load(), SETTLE_MS);
  };
  handlers.add(handle);
  onScopeDispose(() => {
    handlers.delete(handle);
    clearTimeout(timer);
    newest = Infinity;
  });
  void load().finally(() => {
    gathered?.end();
  });
  /** Asked for by hand, it is read anew whatever is kept. */
  const reload = (): Promise<void> => {
    forgetAnswers();
    return load();
  };
  return { data, error, isGone, load: reload };
}
