import { call, Unreachable } from './server';
import { account, forget, kept } from './store';

const EVERY_MINUTES = 0.5;

/** Sends what was clipped while the program was down. What it refuses stays in Arrivals for a person to look at. */
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
      if (one.filing && capture.state === 'waiting' && capture.verdict.person.kind !== 'maybe')
        await call(mine, 'POST /api/captures/:id/filing', {
          params: { id: capture.id },
          body: one.filing,
          key: `${one.id}-filing`,
        }).catch((error: unknown) => {
          if (error instanceof Unreachable) throw error;
        });
    } catch (error) {
      if (error instanceof Unreachable) return sent;
    }
    await forget(one.id);
    sent++;
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
