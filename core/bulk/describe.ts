import type { Named, Step } from './types';

const quoted = (tags: readonly string[]): string => tags.map((tag) => `“${tag}”`).join(', ');

/** Who sees something, in words. */
export function sightWords(
  { to, only = [] }: Pick<Extract<Step, { do: 'visible' }>, 'to' | 'only'>,
  called: Named['called'],
): string {
  if (to === 'everybody') return 'everybody';
  if (to === 'owner') return 'the owner and their managers';
  return only.map(called).join(', ');
}

type Wording = Pick<Named, 'called' | 'label' | 'term'>;

/** One step in words, such as “owner to Ines Tolland”. */
function describeStep(step: Step, { called, label, term }: Wording): string {
  switch (step.do) {
    case 'owner':
      return step.to ? `owner to ${called(step.to)}` : 'owner to nobody';
    case 'standing':
    case 'kind':
    case 'status':
      return `${step.do} to ${term(step.to)?.name ?? step.to}`;
    case 'reterm':
      return `“${term(step.from)?.name ?? step.from}” to “${term(step.to)?.name ?? step.to}”`;
    case 'source':
      return `source to ${step.to}`;
    case 'stage':
      return `stage to ${called(step.to)}`;
    case 'tag':
      return `tag ${quoted(step.tags)}`;
    case 'untag':
      return `tag ${quoted(step.tags)} removed`;
    case 'retag':
      return step.to === null ? `tag ${quoted([step.from])} removed` : `tag “${step.from}” to “${step.to}”`;
    case 'field':
      return step.to ? `${label(step.key)} to “${step.to}”` : `${label(step.key)} cleared`;
    case 'active':
      return step.to ? 'active again' : 'inactive';
    case 'important':
      return step.to ? 'important' : 'no longer important';
    case 'list':
      return `on the list ${called(step.to)}`;
    case 'unlist':
      return `off the list ${called(step.to)}`;
    case 'project':
      return `on the project ${called(step.to)}`;
    case 'next move':
      return `next move “${step.title}”`;
    case 'visible':
      return `visible to ${sightWords(step, called)}`;
    case 'erase':
      return 'erased for good';
  }
}

/** What some steps do, in words. */
export const describeSteps = (steps: readonly Step[], named: Wording): string =>
  steps.map((step) => describeStep(step, named)).join(', ');
