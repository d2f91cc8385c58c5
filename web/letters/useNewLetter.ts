import type { In } from '@emporikon/contract';
import { ref, type Ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

/** Begins a letter and opens it. */
export function useNewLetter(): {
  isBusy: Ref<boolean>;
  write: (letter: In<'POST /api/letters', 'body'>) => Promise<void>;
} {
  const router = useRouter();
  const undo = useUndo();
  const isBusy = ref(false);
  async function write(body: In<'POST /api/letters', 'body'>): Promise<void> {
    if (isBusy.value) return;
    isBusy.value = true;
    try {
      const { letter } = await api('POST /api/letters', { body });
      await router.push(`/letters/${letter.id}`);
    } catch (problem) {
      undo.fail(problem);
    } finally {
      isBusy.value = false;
    }
  }
  return { isBusy, write };
}
