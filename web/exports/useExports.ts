import type { Export } from '@emporikon/contract/exports';
import { FORMAT_NAMES, type ExportFormat } from '@emporikon/core/outgoing/formats';
import type { Query } from '@emporikon/core/query/types';
import { defineStore } from 'pinia';
import { shallowRef } from 'vue';
import { api } from '../shell/api';
import { hasBackgroundWork } from '../shell/background';
import { useUndo } from '../shell/undo';

const POLL_MS = 500;
/** More than these are made in the background. */
const MOST_AT_ONCE = 2000;

export const fileOf = ({ id }: Pick<Export, 'id'>): string => `/api/exports/${id}/file`;
/** What is asked for as a file, and how many records are in it. */
export interface Wanted {
  query: Query;
  format: ExportFormat;
  dateField?: string;
  name: string;
  count: number;
}

function download(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  link.click();
}

/** Files of what views show: small ones come at once, large ones are made while somebody works on. */
export const useExports = defineStore('exports', () => {
  const undo = useUndo();
  /** The one that was begun here last, while it is made. */
  const current = shallowRef<Export | null>(null);
  let timer: ReturnType<typeof setTimeout> | undefined;

  async function follow(): Promise<void> {
    clearTimeout(timer);
    hasBackgroundWork.value = true;
    const { id = '' } = current.value ?? {};
    if (!id) return;
    try {
      const now = await api('GET /api/exports/:id', { params: { id } });
      if (current.value?.id !== id) return;
      current.value = now;
      if (now.state === 'running') timer = setTimeout(() => void follow(), POLL_MS);
      else end(now);
    } catch (problem) {
      current.value = null;
      undo.fail(problem);
    }
  }
  function end(done: Export): void {
    current.value = null;
    if (done.state === 'failed') undo.tell({ text: done.trouble, eventId: null, wrong: true });
    else {
      download(fileOf(done));
      undo.tell({
        text: `${FORMAT_NAMES[done.format].name} of ${done.label} is ready`,
        eventId: null,
        links: [{ text: 'Exports', to: '/settings/exports' }],
      });
    }
  }
  async function begin({ query, format, dateField, name, count }: Wanted): Promise<void> {
    const asked = { name, ...(dateField ? { dateField } : {}) };
    if (count <= MOST_AT_ONCE) {
      const said = new URLSearchParams({ query: JSON.stringify(query), ...asked });
      return download(`/api/queries.${format}?${said}`);
    }
    try {
      current.value = await api('POST /api/exports', { body: { query: query as never, format, ...asked } });
      await follow();
    } catch (problem) {
      undo.fail(problem);
    }
  }
  async function remove({ id }: Pick<Export, 'id'>): Promise<void> {
    try {
      await api('DELETE /api/exports/:id', { params: { id } });
      if (current.value?.id === id) current.value = null;
    } catch (problem) {
      undo.fail(problem);
    }
  }
  return { current, begin, remove };
});
