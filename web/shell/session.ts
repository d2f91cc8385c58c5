import type { Me } from '@emporikon/contract/session';
import type { Right } from '@emporikon/core/rights/rights';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { api, ApiProblem } from './api';
import { closeLive, openLive } from './live';

/** Who is signed in. */
export const useSession = defineStore('session', () => {
  const me = ref<Me | null>(null);
  let asked = false;

  function enter(next: Me): void {
    me.value = next;
    if (!next.mustAddCode) openLive(() => void leave());
  }

  /** Finds out once who is signed in; null when nobody is. */
  async function ready(): Promise<Me | null> {
    if (asked) return me.value;
    asked = true;
    try {
      enter(await api('GET /api/session'));
    } catch (error) {
      if (!(error instanceof ApiProblem) || error.problem.status !== 401) throw error;
    }
    return me.value;
  }

  /** @param code of the authenticator app, or a recovery code, where the account asks for one */
  async function signIn(email: string, password: string, code?: string): Promise<void> {
    enter(await api('POST /api/session', { body: { email, password, ...(code ? { code } : {}) } }));
  }

  /** The session may have ended in another tab, or by somebody else: back to the door, and here again after it. */
  async function leave(): Promise<void> {
    const isOver = await api('GET /api/session').then(
      () => false,
      (error: unknown) => error instanceof ApiProblem && error.problem.status === 401,
    );
    if (!isOver || location.pathname === '/sign-in') return;
    closeLive();
    location.assign(`/sign-in?to=${encodeURIComponent(location.pathname + location.search)}`);
  }

  async function signOut(everywhere = false): Promise<void> {
    closeLive();
    await api(everywhere ? 'DELETE /api/sessions' : 'DELETE /api/session');
    location.assign('/sign-in');
  }

  const rights = computed(() => new Set(me.value?.rights));
  const may = (right: Right): boolean => rights.value.has(right);
  /** Whether I manage a team, and so decide who is in it and who sees what. */
  const mayManage = computed(() => me.value !== null && me.value.role !== 'rep');

  return { me, may, mayManage, ready, signIn, signOut };
});
