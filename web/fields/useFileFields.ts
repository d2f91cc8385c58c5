import type { OwnRecord } from '@emporikon/core/fields/own';
import { ref, watch, type Ref } from 'vue';
import { upload, type Place } from '../files/upload';
import type { CellOption } from '../kit/cells';
import { api } from '../shell/api';
import { useUndo } from '../shell/undo';
import { useVersion } from '../shell/useDraft';

interface Fields {
  record: OwnRecord;
  id: string;
  items: readonly { kind: string }[];
  save: (key: string) => (value: string, version: number) => Promise<void>;
  version?: number | undefined;
}

/** What fields for a file choose from, and files that go onto the record and into a field at once. */
export function useFileFields(fields: () => Fields): {
  files: Ref<CellOption[]>;
  /** The field that a file is on its way to. */
  sending: Ref<string | null>;
  send: (key: string, file: File) => Promise<void>;
} {
  const undo = useUndo();
  const inherited = useVersion();
  const files = ref<CellOption[]>([]);
  const sending = ref<string | null>(null);

  async function load(): Promise<void> {
    const { record, id } = fields();
    const { items } = await api('GET /api/files', { query: { [`${record}Id`]: id, limit: 200 } });
    files.value = items.map((file) => ({ value: file.id, title: file.name }));
  }
  watch(
    () => fields().items.some(({ kind }) => kind === 'file'),
    (isNeeded) => isNeeded && void load().catch(() => undefined),
    { immediate: true },
  );

  async function send(key: string, file: File): Promise<void> {
    const { record, id, save, version } = fields();
    sending.value = key;
    try {
      const added = await upload(file, { [`${record}Id`]: id } as Place, () => undefined);
      await save(key)(added.id, version ?? inherited() ?? 1);
      await load();
    } catch (problem) {
      undo.fail(problem);
    } finally {
      sending.value = null;
    }
  }
  return { files, sending, send };
}
