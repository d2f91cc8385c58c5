import { noticeWords } from '@emporikon/core/ledger/notices';
import { watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { browserNoticesAllowed } from './browser';

const MOST = 5;

/**
 * Shows new notices as notifications of the browser while the page is in the background, as their reader chose. Several
 * tabs show one of each: the browser keeps one for each tag.
 * @param unread how many are unread; when it grows there is something new
 */
export function useBrowserNotices(unread: () => number | undefined): void {
  const router = useRouter();
  let since = new Date().toISOString();
  watch(unread, async (now = 0, before = 0) => {
    if (now <= before || !document.hidden || !browserNoticesAllowed()) return;
    const [{ items }, { choices }] = await Promise.all([
      api('GET /api/notices', { query: { limit: MOST } }),
      api('GET /api/notices/settings'),
    ]);
    const wanted = new Set(choices.filter(({ browser }) => browser).map(({ kind }) => kind));
    const fresh = items.filter(({ at, isRead, kind }) => at > since && !isRead && wanted.has(kind));
    since = items[0]?.at ?? since;
    for (const notice of fresh) {
      const shown = new Notification(noticeWords(notice), {
        tag: notice.id,
        ...(notice.about ? { body: notice.about.name } : {}),
      });
      shown.onclick = () => {
        window.focus();
        void router.push({ path: '/round', query: notice.taskId ? { task: notice.taskId } : {} });
      };
    }
  });
}
