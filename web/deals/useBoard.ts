import type { Board, DealRow } from '@emporikon/contract/deals';
import { ref, shallowRef, watch, type Ref } from 'vue';
import { api } from '../shell/api';
import { useFetched, type Fetched } from '../shell/live';

export interface BoardQuery {
  q?: string | undefined;
  owner?: string | undefined;
  team?: string | undefined;
  tag?: string | undefined;
  from?: string | undefined;
  until?: string | undefined;
}

interface Further {
  pages: number;
  items: DealRow[];
  next: string | null;
}

const TABLES = [
  'deals',
  'stages',
  'pipelines',
  'tasks',
  'ledger_links',
  'companies',
  'currency_rates',
  'lead_scores',
];

/** A pipeline's board: its sums, the first cards of each lane, and the further ones as far as they were asked for. */
export function useBoard(
  pipeline: Ref<string>,
  query: () => BoardQuery,
): Pick<Fetched<Board>, 'data' | 'error' | 'load'> & {
  cardsOf: (stageId: string) => DealRow[];
  nextOf: (stageId: string) => string | null;
  more: (stageId: string) => Promise<void>;
} {
  const further = shallowRef(new Map<string, Further>());
  const isReading = ref(new Set<string>());
  const readFurther = (stageId: string, cursor: string): Promise<{ items: DealRow[]; next: string | null }> =>
    api('GET /api/pipelines/:id/board/:stageId', {
      params: { id: pipeline.value, stageId },
      query: { ...query(), cursor, limit: '60' },
    });

  /** Reads again as many further cards of a lane as had been read. */
  async function readAgain(stageId: string, pages: number, from: string): Promise<Further> {
    const again: Further = { pages: 0, items: [], next: from };
    while (again.pages < pages && again.next) {
      const page = await readFurther(stageId, again.next);
      again.items.push(...page.items);
      again.next = page.next;
      again.pages += 1;
    }
    return again;
  }

  const { data, error, load } = useFetched(async (): Promise<Board | null> => {
    if (!pipeline.value) return null;
    const board = await api('GET /api/pipelines/:id/board', {
      params: { id: pipeline.value },
      query: query(),
    });
    const kept = new Map<string, Further>();
    for (const { id, next } of board.stages) {
      const before = further.value.get(id);
      if (before && next) kept.set(id, await readAgain(id, before.pages, next));
    }
    further.value = kept;
    return board;
  }, TABLES);
  watch(pipeline, () => (further.value = new Map()));

  const nextOf = (stageId: string): string | null => {
    const known = further.value.get(stageId);
    return known ? known.next : (data.value?.stages.find(({ id }) => id === stageId)?.next ?? null);
  };
  async function more(stageId: string): Promise<void> {
    const next = nextOf(stageId);
    if (!next || isReading.value.has(stageId)) return;
    isReading.value.add(stageId);
    try {
      const page = await readFurther(stageId, next);
      const known = further.value.get(stageId);
      further.value = new Map(further.value).set(stageId, {
        pages: (known?.pages ?? 0) + 1,
        items: [...(known?.items ?? []), ...page.items],
        next: page.next,
      });
    } finally {
      isReading.value.delete(stageId);
    }
  }
  const cardsOf = (stageId: string): DealRow[] => [
    ...(data.value?.deals ?? []).filter((deal) => deal.stageId === stageId),
    ...(further.value.get(stageId)?.items ?? []),
  ];
  return { data, error, load, cardsOf, nextOf, more };
}
