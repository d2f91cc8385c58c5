import type { LiveEvent } from '@emporikon/contract/settings';

/** What a tab is told: a change, or how the stream itself is. */
export interface LiveNotice extends LiveEvent {
  open?: boolean;
}
type Hear = (notice: LiveNotice) => void;

const NAME = 'emporikon-live';
const [SOONEST_MS, LATEST_MS] = [1000, 30_000];

/** Reads the stream, again and again after a failure, less often each time. @returns what ends it */
function readStream(url: string, tell: Hear): () => void {
  let source: EventSource | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;
  let wait = SOONEST_MS;
  let isOver = false;
  let hadGap = false;
  // What the page read before the stream was open may have changed since: the server is told how long ago that began.
  let address = `${url}?age=${Math.round(performance.now())}`;
  const connect = (): void => {
    source = new EventSource(address);
    address = url;
    source.onopen = () => {
      wait = SOONEST_MS;
      tell({ open: true, ...(hadGap ? { resync: true } : {}) });
      hadGap = false;
    };
    source.onmessage = (message: MessageEvent<string>) => {
      const event = JSON.parse(message.data) as LiveNotice;
      if (event.ended) isOver = true;
      tell(event);
      if (isOver) source?.close();
    };
    source.onerror = () => {
      // The browser tries again by itself only where the server answered properly before; everything else is ours.
      source?.close();
      if (isOver) return;
      hadGap = true;
      tell({ open: false });
      timer = setTimeout(connect, wait * (0.75 + Math.random() / 2));
      wait = Math.min(LATEST_MS, wait * 2);
    };
  };
  connect();
  return () => {
    isOver = true;
    clearTimeout(timer);
    source?.close();
  };
}

/**
 * One stream for all tabs of a browser, which may hold only six connections to us: the tab that has the lock reads it
 * and passes on what it hears; when that tab closes, another one takes over and everybody reads again.
 * @returns what ends it in this tab
 */
export function shareStream(url: string, hear: Hear): () => void {
  if (!('locks' in navigator) || !('BroadcastChannel' in window)) return readStream(url, hear);
  const channel = new BroadcastChannel(NAME);
  const ending = new AbortController();
  channel.onmessage = (message: MessageEvent<LiveNotice>) => hear(message.data);
  const isLate = performance.now();
  void navigator.locks
    .request(
      NAME,
      { signal: ending.signal },
      () =>
        new Promise<void>((resolve) => {
          const tell: Hear = (notice) => {
            hear(notice);
            channel.postMessage(notice);
          };
          // Whoever had the lock before is gone, and what it did not pass on with it.
          if (performance.now() - isLate > SOONEST_MS) tell({ resync: true });
          const stop = readStream(url, tell);
          ending.signal.addEventListener('abort', () => {
            stop();
            resolve();
          });
        }),
    )
    .catch(() => undefined);
  return () => {
    ending.abort();
    channel.close();
  };
}
