import type { In } from '@emporikon/contract';
import type { Letter } from '@emporikon/contract/letters';
import { onScopeDispose, ref, type Ref } from 'vue';
import { onBeforeRouteLeave } from 'vue-router';
import { api, ApiProblem, wordsOf } from '../shell/api';

type Patch = Omit<In<'PATCH /api/letters/:id', 'body'>, 'version'>;
const PAUSE_MS = 700;

/**
 * One letter as it is written: what is typed is saved a moment later, one save after the other, each over the version of the one
 * before.
 */
export function useLetter(id: string): {
  letter: Ref<Letter | null>;
  error: Ref<string>;
  /** Somebody, perhaps oneself in another tab, changed it meanwhile. */
  isOvertaken: Ref<boolean>;
  isSaving: Ref<boolean>;
  put: (patch: Patch) => void;
  /** Saves what waits. @throws where it could not be saved */
  flush: () => Promise<Letter>;
  /** Shows what another call answered. */
  show: (letter: Letter) => void;
  load: () => Promise<void>;
} {
  const letter = ref<Letter | null>(null);
  const error = ref('');
  const isOvertaken = ref(false);
  const isSaving = ref(false);
  let waiting: Patch = {};
  let timer: ReturnType<typeof setTimeout> | undefined;
  let last: Promise<unknown> = Promise.resolve();

  async function load(): Promise<void> {
    try {
      letter.value = await api('GET /api/letters/:id', { params: { id } });
      error.value = '';
      isOvertaken.value = false;
      waiting = {};
    } catch (problem) {
      error.value = wordsOf(problem);
    }
  }

  async function saveOnce(): Promise<void> {
    const patch = waiting;
    if (!Object.keys(patch).length || !letter.value || isOvertaken.value) return;
    waiting = {};
    isSaving.value = true;
    try {
      const { letter: saved } = await api('PATCH /api/letters/:id', {
        params: { id },
        body: { version: letter.value.version, ...patch },
      });
      // What is being typed stays as it is on the screen; only what the server alone knows is taken over.
      letter.value = { ...saved, ...kept(saved), ...(waiting as object) };
      error.value = '';
    } catch (problem) {
      waiting = { ...patch, ...waiting };
      isOvertaken.value = problem instanceof ApiProblem && problem.problem.status === 409;
      error.value = wordsOf(problem);
      throw problem;
    } finally {
      isSaving.value = false;
    }
  }
  const kept = (saved: Letter): Partial<Letter> => ({
    subject: letter.value?.subject ?? saved.subject,
    html: letter.value?.html ?? saved.html,
  });

  const save = (): Promise<void> => {
    clearTimeout(timer);
    const next = last.then(saveOnce, saveOnce);
    last = next.catch(() => undefined);
    return next;
  };
  function put(patch: Patch): void {
    waiting = { ...waiting, ...patch };
    clearTimeout(timer);
    timer = setTimeout(() => void save().catch(() => undefined), PAUSE_MS);
  }
  async function flush(): Promise<Letter> {
    await save();
    if (!letter.value) throw new Error('The letter is not there any more.');
    return letter.value;
  }
  onBeforeRouteLeave(async () => {
    await save().catch(() => undefined);
    return true;
  });
  onScopeDispose(() => clearTimeout(timer));
  void load();
  return { letter, error, isOvertaken, isSaving, put, flush, show: (one) => (letter.value = one), load };
}
