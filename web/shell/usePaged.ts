import { onScopeDispose, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { wordsOf } from './api';
import { useFetched } from './live';

interface PageOf<T> {
  items: T[];
  next: string | null;
}

/**
 * A list that grows by pages. When its records change, as many pages are read again as were read.
 * @param about the ids of what is shown, where it is about one record
 */
export function usePaged<T, Page extends PageOf<T> = PageOf<T>>(
  read: (cursor: string | undefined) => Promise<Page & PageOf<T>>,
  tables: readonly string[],
  about?: () => readonly unknown[],
): {
  items: ShallowRef<T[] | null>;
  first: ShallowRef<Page | null>;
  hasMore: Ref<boolean>;
  more: () => Promise<void>;
  error: Ref<string>;
  reload: () => Promise<void>;
} {
  const items = shallowRef<T[] | null>(null);
  const first: ShallowRef<Page | null> = shallowRef(null);
  const next = ref<string | null>(null);
  const hasMore = ref(false);
  let pages = 1;
  const readAll = async (): Promise<Page & PageOf<T>> => {
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
  const { data, error, load } = useFetched(readAll, tables, about as () => string[]);
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
  return { items, first, hasMore, more, error, reload };
}

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
