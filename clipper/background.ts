import { call, Refused, Unreachable } from './server';
import { account, forget, keep, kept } from './store';

const EVERY_MINUTES = 0.5;
/** A no that may be a yes later: signed out, too many at once, an error of its own. */
const PASSING = new Set([401, 403, 408, 429, 500]);

/**
 * Sends what was clipped while the program was down. A page it cannot file waits in Arrivals for a person to look at; one
 * it does not take at all stays here with the reason.
 */
async function sendKept(): Promise<number> {
  const mine = await account();
  if (!mine) return 0;
  let sent = 0;
  for (const one of await kept()) {
    try {
      const capture = await call(mine, 'POST /api/captures', {
        html: one.html,
        query: { by: 'clipper', url: one.url },
        key: one.id,
      });
      if (
        one.filing &&
        capture.state === 'waiting' &&
        (one.filing.person || capture.verdict.person.kind !== 'maybe')
      )
        await call(mine, 'POST /api/captures/:id/filing', {
          params: { id: capture.id },
          body: one.filing,
          key: `${one.id}-filing`,
        }).catch((error: unknown) => {
          if (error instanceof Unreachable) throw error;
        });
      await forget(one.id);
      sent++;
    } catch (error) {
      if (!(error instanceof Refused) || PASSING.has(error.status)) return sent;
      await keep({ ...one, problem: error.message });
    }
  }
  return sent;
}

let isSending: Promise<number> | null = null;
const sendOnce = (): Promise<number> => (isSending ??= sendKept().finally(() => (isSending = null)));

chrome.action.onClicked.addListener((tab) => {
  if (tab.id !== undefined) void chrome.tabs.sendMessage(tab.id, { type: 'open' }).catch(() => undefined);
});
chrome.alarms.create('send', { periodInMinutes: EVERY_MINUTES });
chrome.alarms.onAlarm.addListener(() => void sendOnce());
chrome.runtime.onStartup.addListener(() => void sendOnce());
chrome.runtime.onMessage.addListener((message: { type?: string }, sender, answer) => {
  if (message.type === 'send') {
    void sendOnce().then(answer);
    return true;
  }
  if (message.type === 'options') void chrome.runtime.openOptionsPage();
  // The sheet speaks to the page it stands in by way of here: it is a frame of another origin.
  if (message.type === 'mark' || message.type === 'close' || message.type === 'page') {
    if (sender.tab?.id !== undefined)
      void chrome.tabs.sendMessage(sender.tab.id, message, { frameId: 0 }).then(answer, () => answer(null));
    return true;
  }
  return false;
});
