import type { BulkChange } from '@emporikon/contract/bulk';
import type { Step } from '@emporikon/core/bulk/types';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { api } from '../shell/api';
import { hasBackgroundWork } from '../shell/background';
import { useUndo } from '../shell/undo';
import { isForGood, wordsOfDone, wordsOfUndone } from './words';

const POLL_MS = 400;
const UNDERWAY = new Set<BulkChange['state']>(['running', 'undoing']);

/** The change of many records that somebody began here, until it is done: it goes on whatever page is open. */
export const useBulk = defineStore('bulk', () => {
  const undo = useUndo();
  const change = shallowRef<BulkChange | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;

  /** Looks how far it is, and says when it is done. */
  async function follow(): Promise<void> {
    clearTimeout(timer);
    hasBackgroundWork.value = true;
    const { id = '' } = change.value ?? {};
    if (!id) return;
    try {
      const now = await api('GET /api/bulk-changes/:id', { params: { id } });
      if (change.value?.id !== id) return;
      change.value = now;
      if (UNDERWAY.has(now.state)) timer = setTimeout(() => void follow(), POLL_MS);
      else if (now.state !== 'paused') end(now);
    } catch (problem) {
      change.value = null;
      undo.fail(problem);
    }
  }

  function end(done: BulkChange): void {
    change.value = null;
    if (done.state === 'failed') undo.tell({ text: done.trouble, eventId: null, wrong: true });
    else if (done.state === 'undone') undo.tell({ text: wordsOfUndone(done), eventId: null });
    else
      undo.tell({
        text: wordsOfDone(done),
        eventId: null,
        ...(done.counts.changed && !isForGood(done) ? { takeBack: () => takeBack(done.id) } : {}),
        ...(done.counts.refused
          ? { links: [{ text: 'Which', to: `/settings/bulk?change=${done.id}` }] }
          : {}),
      });
  }

  async function turn(name: 'start' | 'pause' | 'undo', id: string): Promise<void> {
    try {
      change.value = await api(`POST /api/bulk-changes/:id/${name}`, { params: { id } });
      await follow();
    } catch (problem) {
      undo.fail(problem);
    }
  }
  /** Changes one record as many are changed, with the same way back. */
  async function changeOne(kind: BulkChange['kind'], id: string, steps: readonly Step[]): Promise<void> {
    try {
      const { change: previewed, preview } = await api('POST /api/bulk-changes', {
        body: { kind, on: { ids: [id] }, steps: [...steps] },
      });
      const [refused] = preview.refuse;
      if (refused) undo.tell({ text: refused.why, eventId: null, wrong: true });
      else if (preview.change) await begin(previewed.id);
    } catch (problem) {
      undo.fail(problem);
    }
  }
  const begin = (id: string): Promise<void> => turn('start', id);
  const pause = (id: string): Promise<void> => turn('pause', id);
  const takeBack = (id: string): Promise<void> => turn('undo', id);
  /** A paused one is left to the list in Settings. */
  const leave = (): void => void (change.value = null);
  return { change, begin, changeOne, pause, takeBack, leave };
});
