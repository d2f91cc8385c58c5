import { Id } from '@emporikon/contract/common';
import { z } from 'zod';
import type { Tools } from '../commands/context';
import { Import } from '../db/models/imports';
import type { AnyJob } from '../commands/types';
import { defineJob, type Job } from '../jobs/job';
import { previewImport } from './preview';
import { runImport } from './run';
import { undoImport } from './undo';

interface OneImport {
  id: string;
}

/** A job on one import. What it fails with is said on the import; the queue tries again where that may help. */
const onImport = (name: string, work: (tools: Tools, id: string) => Promise<void>): Job<OneImport> & AnyJob =>
  defineJob({
    name,
    lane: 'long',
    input: z.object({ id: Id }),
    async run(tools, { id }) {
      try {
        await work(tools, id);
      } catch (error) {
        const trouble = error instanceof Error ? error.message.slice(0, 300) : String(error);
        await Import.update({ trouble }, { where: { id } });
        throw error;
      }
    },
  });

export const previewJob = onImport('previewImport', previewImport);
export const runJob = onImport('runImport', runImport);
export const undoJob = onImport('undoImport', undoImport);
