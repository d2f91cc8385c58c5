import type { Span } from '@emporikon/core/reading/types';

export interface Mark {
  id: string;
  kind: 'claim' | 'intent';
  span: Span | null;
}

/** A run of text in which the same things were read; `ids` shortest span first, so that the most exact one answers. */
export interface Stretch {
  text: string;
  ids: string[];
  kind: 'claim' | 'intent' | '';
  /** Whether something begins here: the place the keyboard stops at. */
  opens: boolean;
}

/** Cuts a text at every edge of what was read in it, so that overlapping readings can all be shown. */
export function cutText(text: string, marks: readonly Mark[], part: Span['part']): Stretch[] {
  const here = marks
    .flatMap(({ id, kind, span }) =>
      span?.part === part && span.start < span.end && span.end <= text.length ? [{ id, kind, ...span }] : [],
    )
    .sort((a, b) => a.end - a.start - (b.end - b.start));
  const edges = [...new Set([0, text.length, ...here.flatMap(({ start, end }) => [start, end])])].sort(
    (a, b) => a - b,
  );
  const stretches: Stretch[] = [];
  for (let at = 0; at + 1 < edges.length; at++) {
    const [start = 0, end = 0] = [edges[at], edges[at + 1]];
    const over = here.filter((mark) => mark.start <= start && mark.end >= end);
    stretches.push({
      text: text.slice(start, end),
      ids: over.map((mark) => mark.id),
      kind: over[0]?.kind ?? '',
      opens: over.some((mark) => mark.start === start),
    });
  }
  return stretches;
}
