import type { SheetReading } from '@emporikon/core/ledger/callSheet';
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue';
import type { FreeDays } from '@emporikon/core/calendar/workingDays';
import { loadFreeDays } from '../kit/useFreeDays';
import { useSession } from '../shell/session';
import type { SheetAnswer, SheetRequest } from '../workers/callSheet';

const localNow = (): string => {
  const now = new Date();
  const offset = -now.getTimezoneOffset();
  const pad = (part: number): string => String(Math.floor(Math.abs(part))).padStart(2, '0');
  return `${new Date(now.getTime() + offset * 60_000).toISOString().slice(0, 19)}${offset < 0 ? '-' : '+'}${pad(offset / 60)}:${pad(offset % 60)}`;
};

/**
 * The reading of a note as it is typed, made in a worker; an answer to older words never replaces a newer one.
 * @param goods the names of what is sold
 */
export function useSheet(
  text: Ref<string>,
  goods: Readonly<Ref<readonly string[]>> = ref([]),
): { reading: Ref<SheetReading | null>; took: Ref<number> } {
  const session = useSession();
  const reading = shallowRef<SheetReading | null>(null);
  const took = ref(0);
  const worker = new Worker(new URL('../workers/callSheet.ts', import.meta.url), { type: 'module' });
  /** Until they are known, weekends alone are free. */
  const free = shallowRef<FreeDays>();
  void loadFreeDays().then((days) => (free.value = days));
  let serial = 0;
  worker.onmessage = ({ data }: MessageEvent<SheetAnswer>) => {
    if (data.serial !== serial) return;
    reading.value = data.reading;
    took.value = data.took;
  };
  watch(
    [text, free, goods],
    ([words]) => {
      const request: SheetRequest = {
        serial: ++serial,
        text: words,
        options: {
          at: localNow(),
          free: free.value,
          goods: [...goods.value],
          ...(session.me
            ? {
                zone: session.me.timeZone,
                currency: session.me.currency,
                country: session.me.country,
              }
            : {}),
        },
      };
      worker.postMessage(request);
    },
    { immediate: true },
  );
  onScopeDispose(() => worker.terminate());
  return { reading, took };
}
