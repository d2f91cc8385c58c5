import { defineStore } from 'pinia';
import { ref } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import { api, wordsOf } from './api';

export interface Told {
  text: string;
  /** The event that takes it back; null when there is nothing to take back. */
  eventId: string | null;
  links?: { text: string; to: RouteLocationRaw }[];
  wrong?: boolean;
}

const STAYS_MS = 12_000;

/** The one line at the foot that says what was done and takes it back. */
export const useUndo = defineStore('undo', () => {
  const told = ref<Told | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;

  function tell(next: Told): void {
    told.value = next;
    clearTimeout(timer);
    if (!next.wrong) timer = setTimeout(() => (told.value = null), STAYS_MS);
  }

  const fail = (error: unknown): void => tell({ text: wordsOf(error), eventId: null, wrong: true });

  async function undo(): Promise<void> {
    const eventId = told.value?.eventId;
    if (!eventId) return;
    try {
      const { undone } = await api('POST /api/events/:id/undo', { params: { id: eventId } });
      tell({ text: `Undone: ${undone}`, eventId: null });
    } catch (error) {
      fail(error);
    }
  }

  const dismiss = (): void => void (told.value = null);
  return { told, tell, fail, undo, dismiss };
});
