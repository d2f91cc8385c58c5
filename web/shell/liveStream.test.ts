import '../testing/browser';
import { shareStream, type LiveNotice } from './liveStream';

class Source {
  static all: Source[] = [];
  onopen: () => void = () => undefined;
  onmessage: (message: { data: string }) => void = () => undefined;
  onerror: () => void = () => undefined;
  isClosed = false;
  constructor(readonly url: string) {
    Source.all.push(this);
  }
  close(): void {
    this.isClosed = true;
  }
  say(notice: LiveNotice): void {
    this.onmessage({ data: JSON.stringify(notice) });
  }
}
const last = (): Source => Source.all.at(-1)!;

beforeEach(() => {
  jest.useFakeTimers();
  jest.spyOn(Math, 'random').mockReturnValue(0.5);
  Source.all = [];
  Object.assign(globalThis, { EventSource: Source });
});
afterEach(() => {
  jest.useRealTimers();
  jest.restoreAllMocks();
});

describe('a browser in which tabs cannot share', () => {
  const open = (): { heard: LiveNotice[]; stop: () => void } => {
    const heard: LiveNotice[] = [];
    return { heard, stop: shareStream('/api/events', (notice) => heard.push(notice)) };
  };

  it('passes on what it hears', () => {
    const { heard } = open();
    last().onopen();
    last().say({ touched: [{ table: 'people', id: '1' }] });
    expect(heard).toEqual([{ open: true }, { touched: [{ table: 'people', id: '1' }] }]);
  });

  it('connects again after a failure, less often each time, and says that something may have been missed', () => {
    const { heard } = open();
    last().onopen();
    for (const wait of [1000, 2000, 4000, 8000, 16_000, 30_000, 30_000]) {
      const count = Source.all.length;
      last().onerror();
      expect(last().isClosed).toBe(true);
      jest.advanceTimersByTime(wait - 1);
      expect(Source.all).toHaveLength(count);
      jest.advanceTimersByTime(1);
      expect(Source.all).toHaveLength(count + 1);
    }
    last().onopen();
    expect(heard.at(-1)).toEqual({ open: true, resync: true });
    last().onerror();
    jest.advanceTimersByTime(1000);
    expect(heard.filter((notice) => notice.open === false)).toHaveLength(8);
    last().onopen();
  });

  it('stays closed once the session is over, or nobody listens', () => {
    const { stop } = open();
    last().say({ ended: true });
    last().onerror();
    jest.advanceTimersByTime(60_000);
    expect(Source.all).toHaveLength(1);
    stop();
    const second = open();
    last().onerror();
    second.stop();
    jest.advanceTimersByTime(60_000);
    expect(Source.all).toHaveLength(2);
  });
});

describe('tabs of one browser', () => {
  const channels = new Set<{ onmessage: (message: { data: LiveNotice }) => void }>();
  const queue: { run: () => Promise<void>; signal: AbortSignal }[] = [];
  let isHeld = false;
  const next = (): void => {
    const waiting = queue.shift();
    if (!waiting) return;
    isHeld = true;
    void waiting.run().then(() => {
      isHeld = false;
      next();
    });
  };
  beforeEach(() => {
    channels.clear();
    queue.length = 0;
    isHeld = false;
    class Channel {
      onmessage: (message: { data: LiveNotice }) => void = () => undefined;
      constructor() {
        channels.add(this);
      }
      postMessage(data: LiveNotice): void {
        for (const other of channels) if (other !== this) other.onmessage({ data });
      }
      close(): void {
        channels.delete(this);
      }
    }
    Object.assign(window, { BroadcastChannel: Channel });
    Object.assign(globalThis, { BroadcastChannel: Channel });
    Object.assign(navigator, {
      locks: {
        request: (_: string, { signal }: { signal: AbortSignal }, run: () => Promise<void>) => {
          queue.push({ run, signal });
          if (!isHeld) next();
          return Promise.resolve();
        },
      },
    });
  });
  afterEach(() => {
    delete (navigator as { locks?: unknown }).locks;
  });
  const tab = (): { heard: LiveNotice[]; close: () => void } => {
    const heard: LiveNotice[] = [];
    return { heard, close: shareStream('/api/events', (notice) => heard.push(notice)) };
  };

  it('hold one connection, and all hear what one reads', () => {
    const [one, two, three] = [tab(), tab(), tab()];
    expect(Source.all).toHaveLength(1);
    last().say({ touched: [{ table: 'deals', id: '1' }] });
    for (const { heard } of [one, two, three])
      expect(heard).toEqual([{ touched: [{ table: 'deals', id: '1' }] }]);
  });

  it('when the one that reads is closed, another takes over and all read anew', async () => {
    const [one, two, three] = [tab(), tab(), tab()];
    jest.advanceTimersByTime(5000);
    one.close();
    await jest.advanceTimersByTimeAsync(0);
    expect(Source.all.map((source) => source.isClosed)).toEqual([true, false]);
    expect([two.heard, three.heard]).toEqual([[{ resync: true }], [{ resync: true }]]);
    expect(one.heard).toEqual([]);
  });
});
