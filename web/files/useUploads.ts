import { ref, type Ref } from 'vue';
import { wordsOf } from '../shell/api';
import { counted, fileSize } from '../shell/format';
import { useUndo } from '../shell/undo';
import { upload, type Target } from './upload';

/** More is not taken whatever the settings say; the connection would only be broken off. */
const MOST_BYTES = 64 * 1024 * 1024;

interface Upload {
  key: number;
  name: string;
  size: number;
  sent: number;
  /** Why it was not taken; empty while it goes. */
  trouble: string;
}

/** Files on their way to one place, one after the other; what is taken leaves the list, what is not says why. */
export function useUploads(target: () => Target): {
  uploads: Ref<Upload[]>;
  take: (files: Iterable<File> | null | undefined) => Promise<void>;
  dismiss: (key: number) => void;
} {
  const undo = useUndo();
  const uploads = ref<Upload[]>([]);
  let next = 0;
  const dismiss = (key: number): void =>
    void (uploads.value = uploads.value.filter((one) => one.key !== key));
  async function take(files: Iterable<File> | null | undefined): Promise<void> {
    const chosen = [...(files ?? [])];
    const to = target();
    const queued = chosen.map((file) => {
      uploads.value.push({ key: next++, name: file.name, size: file.size, sent: 0, trouble: '' });
      return { file, line: uploads.value.at(-1) as Upload };
    });
    const done: { name: string; eventId: string | null }[] = [];
    for (const { file, line } of queued) {
      if (file.size > MOST_BYTES) {
        line.trouble = `${file.name} is larger than ${fileSize(MOST_BYTES)}; it was not added.`;
        continue;
      }
      try {
        const { eventId } = await upload(file, to, (bytes) => (line.sent = bytes));
        done.push({ name: file.name, eventId });
        dismiss(line.key);
      } catch (problem) {
        line.trouble = wordsOf(problem);
      }
    }
    const eventIds = done.flatMap(({ eventId }) => eventId ?? []);
    const [first] = done;
    if (done.length === 1 && first)
      undo.tell({
        text: first.eventId ? `Added ${first.name}.` : `${first.name} is the same as before.`,
        eventId: first.eventId,
      });
    else if (done.length)
      undo.tell({
        text: `Added ${counted(done.length, 'file')}.`,
        eventId: eventIds.at(-1) ?? null,
        before: eventIds.slice(0, -1),
      });
  }
  return { uploads, take, dismiss };
}
