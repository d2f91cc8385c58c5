import { noticeWords } from '@emporikon/core/ledger/notices';
import { watch } from 'vue';
import { useRouter } from 'vue-router';
import { api } from '../shell/api';
import { useSession } from '../shell/session';
import { browserNoticesAllowed } from './browser';

const MOST = 5;

/**
 * Shows new notices as notifications of the browser while the page is in the background, as their reader chose, and none
 * during their quiet hours. Several tabs show one of each: the browser keeps one for each tag.
 * @param unread how many are unread; when it grows there is something new
 */
export function useBrowserNotices(unread: () => number | undefined): void {
  const router = useRouter();
  const session = useSession();
  /** When the newest notice that was looked at came, on the clock of the server, which need not be that of the browser. */
  let since = '';

  /** @param more so many are unread more than before */
  async function show(more: number): Promise<void> {
    const [{ items }, { choices, quiet }, { isQuiet }] = await Promise.all([
      api('GET /api/notices', { query: { limit: Math.min(more, MOST) } }),
      api('GET /api/notices/settings'),
      import('@emporikon/core/ledger/noticeTimes'),
    ]);
    const known = since;
    since = items[0]?.at ?? since;
    if (!document.hidden || isQuiet(new Date(), session.me?.timeZone ?? 'UTC', quiet)) return;
    const wanted = new Set(choices.filter(({ browser }) => browser).map(({ kind }) => kind));
    const fresh = items.filter(({ at, isRead, kind }) => at > known && !isRead && wanted.has(kind));
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
  }

  watch(unread, async (now = 0, before) => {
    if (before !== undefined && now > before && browserNoticesAllowed()) await show(now - before);
  });
}
