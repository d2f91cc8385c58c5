import type { ImportState } from '@emporikon/contract/imports';

export const STATE_WORDS: Record<ImportState, string> = {
  reading: 'is being opened',
  mapping: 'waits for its columns',
  previewing: 'is being looked through',
  previewed: 'waits for your word',
  running: 'is being written',
  paused: 'is paused',
  done: 'is done',
  undoing: 'is being taken back',
  undone: 'was taken back',
  failed: 'failed',
};
export const BUSY: readonly ImportState[] = ['reading', 'previewing', 'running', 'undoing'];
