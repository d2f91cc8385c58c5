import type { ImportState } from '@emporikon/contract/imports';

export const STATE_WORDS: Record<ImportState, string> = {
  reading: 'opening',
  mapping: 'choose what each column holds',
  previewing: 'being checked',
  previewed: 'ready to import',
  running: 'importing',
  paused: 'paused',
  done: 'done',
  undoing: 'being undone',
  undone: 'undone',
  failed: 'failed',
};
export const BUSY: readonly ImportState[] = ['reading', 'previewing', 'running', 'undoing'];
