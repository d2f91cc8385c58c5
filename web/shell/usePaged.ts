import { ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue';
import { useFetched } from './live';

interface PageOf<T> {
  items: T[];
  next: string | null;
}

/** A list that grows by pages and reads its first page again when its records change. */
export function usePaged<T>(
  read: (cursor: string | undefined) => Promise<PageOf<T>>,
  tables: readonly string[],
): {
  items: ShallowRef<T[] | null>;
  hasMore: Ref<boolean>;
  more: () => Promise<void>;
  error: Ref<string>;
  reload: () => Promise<void>;
} {
  const items = shallowRef<T[] | null>(null);
  const next = ref<string | null>(null);
  const hasMore = ref(false);
  const { data, error, load } = useFetched(() => read(undefined), tables);
  watch(data, (page) => {
    if (!page) return;
    items.value = page.items;
    next.value = page.next;
    hasMore.value = page.next !== null;
  });
  async function more(): Promise<void> {
    if (!next.value) return;
    const page = await read(next.value);
    items.value = [...(items.value ?? []), ...page.items];
    next.value = page.next;
    hasMore.value = page.next !== null;
  }
  return { items, hasMore, more, error, reload: load };
}
