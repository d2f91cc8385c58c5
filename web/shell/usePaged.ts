import { onScopeDispose, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { wordsOf } from './api';
import { useFetched, type Fetched } from './live';

interface PageOf<T> {
  items: T[];
  next: string | null;
}

/**
 * A list that grows by pages. When its records change, as many pages are read again as were read.
 * @param about the ids of what is shown, where it is about one record
 * @param mostAgain beyond so many pages they are not read again; the list says that it is old
 */
export function usePaged<T, Page extends PageOf<T> = PageOf<T>>(
  read: (cursor: string | undefined) => Promise<Page & PageOf<T>>,
  tables: readonly string[],
  about?: () => readonly unknown[],
  mostAgain = Infinity,
): {
  items: ShallowRef<T[] | null>;
  first: ShallowRef<Page | null>;
  hasMore: Ref<boolean>;
  more: () => Promise<void>;
  error: Ref<string>;
  /** Whether records have changed that were not read again. */
  isOld: Ref<boolean>;
  reload: () => Promise<void>;
} {
  const items = shallowRef<T[] | null>(null);
  const first: ShallowRef<Page | null> = shallowRef(null);
  const next = ref<string | null>(null);
  const hasMore = ref(false);
  const isOld = ref(false);
  let pages = 1;
  const readAll = async (): Promise<Page & PageOf<T>> => {
    if (pages > mostAgain && data.value) {
      isOld.value = true;
      return data.value;
    }
    isOld.value = false;
    const page = await read(undefined);
    const all = [...page.items];
    let cursor = page.next;
    for (let at = 1; at < pages && cursor; at++) {
      const further = await read(cursor);
      all.push(...further.items);
      cursor = further.next;
    }
    return { ...page, items: all, next: cursor };
  };
  const { data, error, load }: Fetched<Page & PageOf<T>> = useFetched(
    readAll,
    tables,
    about as () => string[],
  );
  watch(data, (page) => {
    if (!page) return;
    first.value = page;
    items.value = page.items;
    next.value = page.next;
    hasMore.value = page.next !== null;
  });
  let isReading = false;
  async function more(): Promise<void> {
    const from = next.value;
    if (!from || isReading) return;
    isReading = true;
    try {
      const page = await read(from);
      // What was asked for may have changed meanwhile.
      if (next.value !== from) return;
      pages += 1;
      items.value = [...(items.value ?? []), ...page.items];
      next.value = page.next;
      hasMore.value = page.next !== null;
    } catch (problem) {
      error.value = wordsOf(problem);
    } finally {
      isReading = false;
    }
  }
  /** Begins anew, when something else is asked for. */
  async function reload(): Promise<void> {
    pages = 1;
    await load();
  }
  return { items, first, hasMore, more, error, isOld, reload };
}

interface LongList<T> {
  items: ShallowRef<T[] | null>;
  hasMore: Ref<boolean>;
  more: () => Promise<void>;
  error: Ref<string>;
  isOld: Ref<boolean>;
  reload: () => Promise<void>;
}
/** A list that may have a hundred thousand records, in which nothing is edited: beyond ten pages it is read again when asked. */
export const useLongList = <T>(
  read: (cursor: string | undefined) => Promise<PageOf<T>>,
  tables: readonly string[],
): LongList<T> => usePaged(read, tables, undefined, 10);

/** Filters that are being typed are not asked for letter by letter. */
const PAUSE_MS = 120;

/** Reads a list again when what is asked for has changed. */
export function reloadOn(asked: () => unknown, reload: () => Promise<void>): void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const wait = (): void => {
    clearTimeout(timer);
    timer = setTimeout(() => void reload(), PAUSE_MS);
  };
  watch(() => JSON.stringify(asked()), wait);
  onScopeDispose(() => clearTimeout(timer));
}
