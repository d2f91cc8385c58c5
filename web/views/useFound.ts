import type { FoundRecord } from '@emporikon/contract/queries';
import { ref, type Ref } from 'vue';
import type { Reply } from '@emporikon/contract';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { reloadOn, useLongList } from '../shell/usePaged';
import { TABLES, type ViewedKind } from './kinds';
import type { useTypedStart } from './useTypedStart';

type Start = ReturnType<typeof useTypedStart>;

/** The first page of a view fills the screen; those that follow are for who reads on. */
const [FIRST, FURTHER] = [100, 200];

interface Found extends ReturnType<typeof useLongList<FoundRecord>> {
  totals: Ref<Reply<'POST /api/queries/totals'> | null>;
  /** The ids of the records somebody ticked. */
  ticked: Ref<string[]>;
}

/** The records of a view and its totals, read again when its query changes. */
export function useFound(kind: ViewedKind, query: Ref<object | null>, start: Start): Found {
  const body = () => ({ query: query.value as never });
  const list = useLongList<FoundRecord>(
    async (cursor) =>
      query.value
        ? api('POST /api/queries', {
            body: {
              ...body(),
              cursor,
              limit: cursor ? FURTHER : FIRST,
              ...(cursor ? {} : start.asked.value),
            },
          })
        : { items: [], next: null },
    TABLES[kind],
  );
  const { data: totals, load } = useFetched(
    async () => (query.value ? api('POST /api/queries/totals', { body: body() }) : null),
    TABLES[kind],
  );
  const ticked = ref<string[]>([]);
  reloadOn(
    () => [query.value, start.asked.value],
    async () => {
      ticked.value = [];
      await Promise.all([list.reload(), load()]);
    },
  );
  return { ...list, totals, ticked };
}
