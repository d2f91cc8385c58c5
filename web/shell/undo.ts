import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import type { RouteLocationRaw } from 'vue-router';
import type { About } from '@emporikon/contract/ledger';
import { api, wordsOf } from './api';

export interface Told {
  text: string;
  /** The event that takes it back; null when there is nothing to take back. */
  eventId: string | null;
  /** What takes it back, where that is more than an event. */
  takeBack?: () => Promise<void>;
  /** What was done before in the same step, and is taken back with it: oldest first. */
  before?: readonly string[];
  /** The record of which a stage, status or owner changed: one can say why. */
  about?: About;
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

  /** It stays for as long as somebody writes in it. */
  const hold = (): void => clearTimeout(timer);

  /** Puts a sentence to the change that was just made, for the ledger and whoever looks at the record next. */
  async function sayWhy(words: string): Promise<void> {
    const about = told.value?.about;
    if (!about || !words.trim()) return;
    try {
      const { items } = await api('GET /api/ledger', { query: { ...about, kind: 'change', limit: 1 } });
      const [entry] = items;
      if (!entry?.isMine) throw new Error('The change is not there any more.');
      const { eventId } = await api('PATCH /api/ledger/:id', {
        params: { id: entry.id },
        body: { version: entry.version, body: words.trim() },
      });
      tell({ text: `Because: ${words.trim()}`, eventId });
    } catch (error) {
      fail(error);
    }
  }

  const fail = (error: unknown): void => tell({ text: wordsOf(error), eventId: null, wrong: true });

  async function undo(): Promise<void> {
    const { eventId, before = [], text, takeBack: takeAllBack } = told.value ?? {};
    if (takeAllBack) return takeAllBack();
    if (!eventId) return;
    const takeBack = (id: string): ReturnType<typeof api<'POST /api/events/:id/undo'>> =>
      api('POST /api/events/:id/undo', { params: { id } });
    try {
      const { undone } = await takeBack(eventId);
      for (const id of [...before].reverse()) await takeBack(id);
      tell({ text: `Undone: ${before.length ? text : undone}`, eventId: null });
    } catch (error) {
      fail(error);
    }
  }

  const dismiss = (): void => void (told.value = null);
  const canUndo = computed(() => Boolean(told.value?.eventId ?? told.value?.takeBack));
  return { told, canUndo, tell, fail, undo, dismiss, hold, sayWhy };
});
