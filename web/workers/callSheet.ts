import { readCallSheet, type SheetReading } from '@emporikon/core/ledger/callSheet';
import type { NoteOptions } from '@emporikon/core/reading/call/read';

export interface SheetRequest {
  serial: number;
  text: string;
  options: NoteOptions;
}
export interface SheetAnswer {
  serial: number;
  reading: SheetReading;
  /** How long the reading took, milliseconds. */
  took: number;
}

/** Reads the call sheet beside the page, so that no keystroke waits for it. */
self.onmessage = ({ data }: MessageEvent<SheetRequest>): void => {
  const began = performance.now();
  const reading = readCallSheet(data.text, data.options);
  const answer: SheetAnswer = { serial: data.serial, reading, took: performance.now() - began };
  self.postMessage(answer);
};
