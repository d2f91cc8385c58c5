import type { SearchHit } from '@emporikon/contract/settings';
import { effectScope, type Ref } from 'vue';
import { useStored } from '../shell/browser';
import { useSession } from '../shell/session';

export type Recent = Pick<SearchHit, 'kind' | 'id' | 'label' | 'hint'>;
const MOST = 8;

/** One list a user, shared by whoever shows it and whoever adds to it, and outliving both. */
const lists = new Map<string, Ref<Recent[]>>();
const scope = effectScope(true);

/** The records this user opened last on this device, newest first. */
export function useRecent(): Ref<Recent[]> {
  const user = useSession().me?.id ?? '';
  const there = lists.get(user);
  if (there) return there;
  const made = scope.run(() => useStored<Recent[]>(`emporikon.recent.${user}`, [])) as Ref<Recent[]>;
  lists.set(user, made);
  return made;
}

/** Notes that a record was opened. */
export function noteRecent(record: Recent): void {
  const recent = useRecent();
  recent.value = [record, ...recent.value.filter(({ id }) => id !== record.id)].slice(0, MOST);
}
