import { onScopeDispose, ref, watch, type Ref } from 'vue';

/** A value kept in this browser. Falls back to the default where storage is closed. */
export function useStored<T>(key: string, otherwise: T): Ref<T> {
  const read = (): T => {
    try {
      const kept = localStorage.getItem(key);
      return kept === null ? otherwise : (JSON.parse(kept) as T);
    } catch {
      return otherwise;
    }
  };
  const value = ref(read()) as Ref<T>;
  watch(value, (next) => {
    try {
      localStorage.setItem(key, JSON.stringify(next));
    } catch {
      // a browser without storage forgets; nothing else depends on it
    }
  });
  return value;
}

/** Follows a media query. */
export function useMedia(query: string): Ref<boolean> {
  const media = matchMedia(query);
  const matches = ref(media.matches);
  const follow = (): void => void (matches.value = media.matches);
  media.addEventListener('change', follow);
  onScopeDispose(() => media.removeEventListener('change', follow));
  return matches;
}

export const usePreferredDark = (): Ref<boolean> => useMedia('(prefers-color-scheme: dark)');

/** Listens for keys on the whole page while the component lives. Keys typed into a field are left to the field. */
export function usePageKeys(handle: (event: KeyboardEvent) => void): void {
  const listen = (event: KeyboardEvent): void => {
    const target = event.target as HTMLElement | null;
    if (
      event.defaultPrevented ||
      target?.closest('input, textarea, [contenteditable], .v-overlay, [role="listbox"]')
    )
      return;
    handle(event);
  };
  window.addEventListener('keydown', listen);
  onScopeDispose(() => window.removeEventListener('keydown', listen));
}
