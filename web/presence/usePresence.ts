import type { Right } from '@emporikon/core/rights/rights';
import type { Present } from '@emporikon/contract/presence';
import { inject, onScopeDispose, provide, shallowRef, watch, type InjectionKey, type ShallowRef } from 'vue';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { onPresence } from '../shell/live';

/** Well within the time after which a page that says nothing is forgotten. */
const SAID_EVERY_MS = 10_000;

interface Presence {
  others: ShallowRef<readonly Present[]>;
  /** Says that a field is edited here, by its caption; null when that is over. */
  edit: (field: string | null) => void;
  /** Whether whoever looks may change the record at all. */
  mayChange: () => boolean;
}
const PRESENCE: InjectionKey<Presence> = Symbol('presence');

/**
 * Says that this page shows a record, and keeps who else does. Fields below that are edited in place say so through it.
 * @param recordId the record; another one when the page turns to another
 * @param takes what it takes to change the record: without it the fields below are only read
 */
export function usePresence(
  recordId: () => string,
  takes: Right | null = null,
): ShallowRef<readonly Present[]> {
  const session = useSession();
  const tab = crypto.randomUUID();
  const others = shallowRef<readonly Present[]>([]);
  let field: string | null = null;
  const say = async (id: string, isHere: boolean): Promise<void> => {
    const answer = await api('PUT /api/presence/:id', {
      params: { id },
      body: { tab, field, isHere },
      keepalive: !isHere,
    }).catch(() => null);
    if (isHere && answer && id === recordId()) others.value = answer.items;
  };
  const here = (): void => {
    if (document.visibilityState === 'visible') void say(recordId(), true);
  };
  const away = (): void => void say(recordId(), false);
  const show = (): void => (document.visibilityState === 'visible' ? here() : away());

  watch(
    recordId,
    (id, before) => {
      if (before) void say(before, false);
      others.value = [];
      void say(id, true);
    },
    { immediate: true },
  );
  const timer = setInterval(here, SAID_EVERY_MS);
  onPresence((id) => id === recordId() && here());
  document.addEventListener('visibilitychange', show);
  window.addEventListener('pagehide', away);
  onScopeDispose(() => {
    clearInterval(timer);
    document.removeEventListener('visibilitychange', show);
    window.removeEventListener('pagehide', away);
    away();
  });
  provide(PRESENCE, {
    others,
    edit(now) {
      field = now;
      here();
    },
    mayChange: () => !takes || session.may(takes),
  });
  return others;
}

/** For a field on a page: who else edits it now, and a way to say that it is edited here. */
export function useFieldPresence(): Presence {
  return inject(PRESENCE, { others: shallowRef([]), edit: () => undefined, mayChange: () => true });
}
