import type { Handlers } from '../http/mount';
import { addJob } from '../jobs/job';
import { fitJob } from './fitting';
import { newestFit } from './fits';

export const accuracyHandlers: Handlers = {
  'GET /api/reading-accuracy': async ({ context }) => {
    const newest = await newestFit(context);
    return {
      madeAt: newest?.madeAt.toISOString() ?? null,
      captures: newest?.captures ?? 0,
      items: (newest?.fits ?? []).map(({ steps, ...counted }) => ({
        ...counted,
        isFitted: steps.length > 0,
      })),
    };
  },
  'POST /api/reading-accuracy/fitting': async ({ context }) => {
    await addJob(context, fitJob, {}, 'fit');
    return { asked: true };
  },
};
