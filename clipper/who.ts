import type { CaptureDetail } from '@emporikon/contract/captures';
import { el } from './dom';

/** Who the page is of: what we hold of them, or the question which of those it may be. */
export function whoLines(capture: CaptureDetail, choose: (person: string) => void): HTMLElement {
  const { kind, matches } = capture.verdict.person;
  const { known } = capture;
  if (kind === 'same' && known)
    return el(
      'div',
      {},
      el('p', { class: 'same' }, `${known.person.name} is in your records.`),
      el('p', {}, `${known.owner ? `${known.owner} looks after them. ` : ''}${known.turn.because}.`),
      known.nextMove
        ? el(
            'p',
            { class: 'soft' },
            `Next: ${known.nextMove.title}, ${new Date(known.nextMove.dueAt).toLocaleDateString()}`,
          )
        : el('p', { class: 'maybe' }, 'No next move.'),
    );
  if (kind === 'new') return el('p', {}, 'Not in your records yet.');
  return askWhich(
    { legend: 'This may be somebody in your records', group: 'who', matches, none: 'somebody new' },
    choose,
  );
}

interface Asked {
  legend: string;
  group: string;
  matches: CaptureDetail['verdict']['person']['matches'];
  /** What is chosen where it is none of them. */
  none: string;
}

/** The question which of those it may be it is. @param choose gets an id, or `new` */
export function askWhich({ legend, group, matches, none }: Asked, choose: (id: string) => void): HTMLElement {
  const option = (id: string, words: string): HTMLElement =>
    el('label', {}, el('input', { type: 'radio', name: group, change: () => choose(id) }), ` ${words}`);
  return el(
    'fieldset',
    {},
    el('legend', { class: 'maybe' }, legend),
    ...matches.map((match) => option(match.id, `${match.label} (${Math.round(match.probability * 100)}%)`)),
    option('new', none),
  );
}
