import { ref, type Ref } from 'vue';
import { wordsOf } from '../shell/api';
import { useUndo } from '../shell/undo';

interface Started {
  /** Changes of many records that go on in the background. */
  changes?: readonly unknown[];
  eventId: string | null;
}

/** Does something that may change many records in the background: it says what was done, and leads to its progress and undo. */
export function useStarting(done: () => void): {
  isBusy: Ref<boolean>;
  /** Why it was not done; empty otherwise. */
  wrong: Ref<string>;
  act: (work: () => Promise<Started>, text: string) => Promise<void>;
} {
  const undo = useUndo();
  const isBusy = ref(false);
  const wrong = ref('');
  async function act(work: () => Promise<Started>, text: string): Promise<void> {
    isBusy.value = true;
    wrong.value = '';
    try {
      const { changes = [], eventId } = await work();
      undo.tell({
        text,
        eventId: changes.length ? null : eventId,
        ...(changes.length ? { links: [{ text: 'Progress and undo', to: '/settings/bulk' }] } : {}),
      });
      done();
    } catch (problem) {
      wrong.value = wordsOf(problem);
    } finally {
      isBusy.value = false;
    }
  }
  return { isBusy, wrong, act };
}
