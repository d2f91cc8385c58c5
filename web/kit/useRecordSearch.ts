import type { SearchHit } from '@emporikon/contract/settings';
import { ref, type Ref } from 'vue';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';

const LEAST_TYPED = 2;

interface RecordSearch {
  hits: Ref<SearchHit[]>;
  isLooking: Ref<boolean>;
  /** Finds what the text may mean; too short a text finds nothing, and the answer to an older text is dropped. */
  look: (typed: string) => Promise<void>;
  /** Drops what was found and what is on its way. */
  clear: () => void;
  isLongEnough: (typed: string) => boolean;
}

/** The records of one kind that a text found as it was typed. */
export function useRecordSearch(kind: SearchHit['kind']): RecordSearch {
  const undo = useUndo();
  const hits = ref<SearchHit[]>([]);
  const isLooking = ref(false);
  let newest = 0;
  const isLongEnough = (typed: string): boolean => typed.trim().length >= LEAST_TYPED;
  const clear = (): void => {
    newest++;
    isLooking.value = false;
    hits.value = [];
  };
  async function look(typed: string): Promise<void> {
    if (!isLongEnough(typed)) return clear();
    const mine = ++newest;
    isLooking.value = true;
    const items = await api('GET /api/search', { query: { q: typed, kind, limit: 20 } }).then(
      (found) => found.items,
      (problem: unknown) => {
        if (mine === newest) undo.fail(problem);
        return [];
      },
    );
    if (mine !== newest) return;
    isLooking.value = false;
    hits.value = items;
  }
  return { hits, isLooking, look, clear, isLongEnough };
}
