import { refitted } from '@emporikon/core/reading/refit';
import type { CaptureKind, Claim } from '@emporikon/core/reading/types';
import type { Context } from '../commands/context';
import { ReadingFitRow, type ReadingFit } from '../db/models/captures';

/** The newest count of how right the reader was; null before the first. */
export const newestFit = (context: Pick<Context, 'tx'>): Promise<ReadingFitRow | null> =>
  ReadingFitRow.findOne({ order: [['madeAt', 'DESC']], transaction: context.tx });

/** How sure the reader may be, by kind of capture and field. */
export const newestFits = async (context: Pick<Context, 'tx'>): Promise<ReadingFit[]> =>
  (await newestFit(context))?.fits ?? [];

/** The confidence a claim is kept with: what the reader gave, as far as people here have found it right. */
export const fittedConfidence = (
  fits: readonly ReadingFit[],
  kind: CaptureKind,
  { field, confidence }: Pick<Claim, 'field' | 'confidence'>,
): number => refitted(fits.find((fit) => fit.kind === kind && fit.field === field)?.steps ?? [], confidence);
