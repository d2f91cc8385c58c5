import type { View } from '@emporikon/contract/queries';
import { ref, type Ref } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import type { OpenView } from './useView';

/** Saving, naming and deleting the view that is open. `saving` says which form is open for it. */
export function useSaving(
  { view, draft, query, load }: OpenView,
  place: string,
): {
  saving: Ref<'new' | 'name' | null>;
  save: () => Promise<void>;
  saved: (view: View, eventId: string | null) => Promise<void>;
  remove: () => Promise<void>;
} {
  const router = useRouter();
  const undo = useUndo();
  const saving = ref<'new' | 'name' | null>(null);

  async function saved(now: View, eventId: string | null): Promise<void> {
    saving.value = null;
    await router.replace({ path: `${place}/${now.id}` });
    await load();
    undo.tell({ text: `Saved ${now.name}`, eventId });
  }
  async function save(): Promise<void> {
    if (!view.value) return void (saving.value = 'new');
    try {
      const { eventId, view: now } = await api('PATCH /api/views/:id', {
        params: { id: view.value.id },
        body: { version: view.value.version, layout: draft.value?.layout, query: query.value as never },
      });
      await saved(now, eventId);
    } catch (problem) {
      undo.fail(problem);
    }
  }
  async function remove(): Promise<void> {
    if (!view.value) return;
    try {
      const { eventId } = await api('DELETE /api/views/:id', { params: { id: view.value.id } });
      undo.tell({ text: `Deleted ${view.value.name}`, eventId });
      await router.replace({ path: place });
      await load();
    } catch (problem) {
      undo.fail(problem);
    }
  }
  return { saving, save, saved, remove };
}
