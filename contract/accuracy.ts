import { CAPTURE_KINDS } from '@emporikon/core/reading/types';
import { z } from 'zod';
import { routes, Time } from './common';

const Confidence = z.number().min(0).max(1);
const Count = z.int();

const FieldAccuracy = z.object({
  kind: z.enum(CAPTURE_KINDS).describe('what kind of capture'),
  field: z.string().describe('the field that was claimed'),
  right: Count.describe('filed as they were read'),
  wrong: Count.describe('corrected or refused before filing'),
  missed: Count.describe('added by hand, because the reader had not read them'),
  bins: z.array(
    z.object({
      from: Confidence.describe('the lower end of a tenth of confidence, as it was shown'),
      right: Count,
      decided: Count,
    }),
  ),
  isFitted: z.boolean().describe('whether enough was decided for the confidence to follow it'),
});
export type FieldAccuracy = z.infer<typeof FieldAccuracy>;

/** How right the reader was about what came in here, and its confidence fitted to that. */
export const accuracyRoutes = routes({
  'GET /api/reading-accuracy': {
    summary:
      'How often claims were right, by kind of capture, field and confidence, in the last 5,000 captures that were filed',
    tag: 'captures',
    right: 'settings.scoring',
    reply: z.object({
      madeAt: Time.nullable().describe('when it was counted; null before the first time'),
      captures: Count.describe('how many captures were looked at'),
      items: z.array(FieldAccuracy),
    }),
  },
  'POST /api/reading-accuracy/fitting': {
    summary: 'Count again in the background, and fit confidences to it',
    tag: 'captures',
    right: 'settings.scoring',
    status: 201,
    reply: z.object({ asked: z.boolean() }),
  },
});
