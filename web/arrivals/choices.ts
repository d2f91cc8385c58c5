import type { CaptureRow } from '@emporikon/contract/captures';
import type { FilingInput } from '@emporikon/contract/filing';
import type { z } from 'zod';

export const KIND_NAMES: Record<CaptureRow['kind'], string> = {
  email: 'mail',
  text: 'text',
  page: 'web page',
  call: 'call',
  form: 'form',
  card: 'card',
  row: 'row of a table',
};

export interface FilingChoices {
  as: 'person' | 'lead' | 'deal' | 'case' | null;
  urgency?: 'urgent' | 'normal' | 'low';
  /** A case or project that is there already. */
  about?: { kind: 'case' | 'project'; id: string; label: string };
  ownerId?: string;
  tags: string[];
  note: string;
  dealTitle?: string;
  amountMinor?: number | null;
  currency?: string;
  stageId?: string;
}

/** Only what was chosen; the rest follows from the verdict. */
export function asInput(choices: FilingChoices): Partial<z.input<typeof FilingInput>> {
  const { as, ownerId, tags, note, dealTitle, amountMinor, currency, stageId } = choices;
  const { urgency, about } = choices;
  return {
    ...(as ? { as } : {}),
    ...(as === 'case' && urgency ? { urgency } : {}),
    ...(about ? { [about.kind]: about.id } : {}),
    ...(ownerId ? { ownerId } : {}),
    ...(tags.length ? { tags } : {}),
    ...(note.trim() ? { note: note.trim() } : {}),
    ...(as === 'deal' && dealTitle?.trim()
      ? {
          deal: {
            title: dealTitle.trim(),
            amountMinor: amountMinor ?? null,
            ...(currency ? { currency } : {}),
            ...(stageId ? { stageId } : {}),
          },
        }
      : {}),
  };
}
