import { computed, inject, onScopeDispose, provide, ref, type InjectionKey, type Ref } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { ApiProblem } from './api';

const VERSION: InjectionKey<() => number | undefined> = Symbol('version');

/** Says at which version the record of a page stands, for everything on it that is edited in place. */
export const provideVersion = (version: () => number | undefined): void => provide(VERSION, version);

/** The version that whoever stands above said. */
export const useVersion = (): (() => number | undefined) => inject(VERSION, () => undefined);

interface Options {
  /** What stands there, as it is edited; live updates may change it while somebody types. */
  value: () => string;
  /** The version of the record; left out, that of the page's record. */
  version?: () => number | undefined;
  /** The value of the field as the server holds it, to tell whether a clash is about this field at all. */
  stored?: () => unknown;
  /** Saves the text over one version. @throws ApiProblem `stale` when the record is at another */
  save: (text: string, version: number) => Promise<void>;
  /** What the server holds for the field, of the record it answers a clash with. */
  theirs: (record: Record<string, unknown>) => unknown;
  fail: (error: unknown) => void;
}

export interface Clash {
  theirs: unknown;
  version: number;
}

/**
 * What is being edited, with the value and version it began from, whatever live updates bring meanwhile. When somebody
 * else changed the same field, both values are there to choose from; when they changed another one, it is saved.
 */
export function useDraft(options: Options): {
  text: Ref<string>;
  isEditing: Ref<boolean>;
  clash: Ref<Clash | null>;
  begin: () => void;
  keep: () => Promise<void>;
  putMine: () => Promise<void>;
  keepTheirs: () => void;
  cancel: () => void;
} {
  const inherited = useVersion();
  const versionNow = (): number => (options.version ?? inherited)() ?? 1;
  const text = ref('');
  const isEditing = ref(false);
  const clash = ref<Clash | null>(null);
  let base = { value: '', stored: undefined as unknown, version: 1 };

  function begin(): void {
    if (isEditing.value) return;
    base = { value: options.value(), stored: options.stored?.(), version: versionNow() };
    text.value = base.value;
    clash.value = null;
    isEditing.value = true;
  }

  async function put(version: number, again = false): Promise<void> {
    try {
      await options.save(text.value.trim(), version);
      clash.value = null;
    } catch (error) {
      const current = error instanceof ApiProblem && error.isStale ? error.problem.current : undefined;
      if (!current) {
        // What was typed is still there, to be put right or sent again.
        isEditing.value = true;
        return options.fail(error);
      }
      const theirs = options.theirs(current);
      const isOther = JSON.stringify(theirs ?? null) === JSON.stringify((base.stored ?? base.value) || null);
      if (isOther && !again) return put(Number(current.version), true);
      clash.value = { theirs, version: Number(current.version) };
    }
  }

  async function keep(): Promise<void> {
    if (!isEditing.value) return;
    isEditing.value = false;
    if (text.value.trim() !== base.value) await put(base.version);
  }
  const putMine = async (): Promise<void> => {
    if (clash.value) await put(clash.value.version, true);
  };
  const keepTheirs = (): void => void (clash.value = null);
  const cancel = (): void => void (isEditing.value = false);

  return { text, isEditing, clash, begin, keep, putMine, keepTheirs, cancel };
}

/** Asks before a page with something unsaved is left, by a link of ours or by closing the tab. */
export function useLeaveGuard(isUnsaved: () => boolean): {
  isAsking: Ref<boolean>;
  answer: (leave: boolean) => void;
} {
  const asking = ref<((leave: boolean) => void) | null>(null);
  const hold = (event: BeforeUnloadEvent): void => {
    if (isUnsaved()) event.preventDefault();
  };
  window.addEventListener('beforeunload', hold);
  onScopeDispose(() => window.removeEventListener('beforeunload', hold));
  onBeforeRouteLeave(() =>
    isUnsaved() ? new Promise<boolean>((resolve) => (asking.value = resolve)) : true,
  );
  return {
    isAsking: computed(() => asking.value !== null),
    answer(leave) {
      asking.value?.(leave);
      asking.value = null;
    },
  };
}
