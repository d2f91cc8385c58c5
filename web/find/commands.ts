import { fold } from '@emporikon/core/people/text';
import type { Right } from '@emporikon/core/rights/rights';
import { sectionsFor } from '../shell/map';
import { SETTINGS } from '../shell/settingsMap';

/** What the find field can make, in the order in which it is offered. */
export const MAKEABLE = ['person', 'company', 'lead', 'deal', 'call', 'task', 'case', 'project'] as const;
export type Makeable = (typeof MAKEABLE)[number];

/** Something the find field does when its name is typed. */
export interface Command {
  name: string;
  /** Where it is or what it belongs to, behind its name. */
  hint: string;
  /** Other words by which it is known. */
  also: string;
  act:
    | { kind: 'go'; to: string }
    | { kind: 'make'; what: Makeable }
    | { kind: 'capture' }
    | { kind: 'theme'; to: 'system' | 'vellum' | 'lamplight' }
    | { kind: 'sign out' }
    | { kind: 'keys' };
}

const ALSO: Record<Makeable, string> = {
  person: 'add contact create',
  company: 'add organisation account create',
  lead: 'add create enquiry',
  deal: 'add create opportunity',
  call: 'log write down note call sheet',
  task: 'add to do next move reminder follow-up create',
  case: 'open trouble complaint ticket support problem create',
  project: 'add delivery create',
};

const TAKES: Record<Makeable, Right> = {
  person: 'people.add',
  company: 'companies.add',
  lead: 'leads.add',
  deal: 'deals.add',
  call: 'ledger.add',
  task: 'tasks.add',
  case: 'projects.add',
  project: 'projects.add',
};

/** What somebody is let do. */
export interface Allowed {
  isAdmin: boolean;
  may: (right: Right) => boolean;
}

/** What of the things that can be made somebody may make. */
export const makeableFor = ({ may }: Allowed): Makeable[] => MAKEABLE.filter((what) => may(TAKES[what]));

/** Every command that somebody is let give. */
export function commandsFor(allowed: Allowed): Command[] {
  const { isAdmin, may } = allowed;
  const go = (name: string, hint: string, to: string, also = ''): Command => ({
    name,
    hint,
    also,
    act: { kind: 'go', to },
  });
  return [
    ...makeableFor(allowed).map((what): Command => ({
      name: `New ${what}`,
      hint: 'Make',
      also: ALSO[what],
      act: { kind: 'make', what },
    })),
    ...(may('tasks.add')
      ? [go('New meeting', 'Make', '/round/week?meeting=new', 'invite appointment invitation create')]
      : []),
    ...(may('ledger.add')
      ? [go('Write a letter', 'Make', '/letters/new', 'new letter email mail compose send')]
      : []),
    ...(may('captures.add')
      ? [
          {
            name: 'Capture',
            hint: 'Make',
            also: 'drop paste upload file message',
            act: { kind: 'capture' } as const,
          },
        ]
      : []),
    ...sectionsFor(may).flatMap((section) =>
      section.places.map((place) =>
        go(place.name, section.name, place.to, `${place.also ?? ''} ${section.name}`),
      ),
    ),
    ...SETTINGS.flatMap((group) =>
      group.places
        .filter(({ isForAdmins }) => isAdmin || !isForAdmins)
        .map((place) => go(place.name, 'Settings', place.to, `${place.also ?? ''} settings ${group.name}`)),
    ),
    { name: 'Light theme', hint: 'Theme', also: 'vellum bright', act: { kind: 'theme', to: 'vellum' } },
    { name: 'Dark theme', hint: 'Theme', also: 'lamplight night', act: { kind: 'theme', to: 'lamplight' } },
    {
      name: 'Theme of this device',
      hint: 'Theme',
      also: 'system automatic',
      act: { kind: 'theme', to: 'system' },
    },
    { name: 'Keys of this page', hint: 'Help', also: 'keyboard shortcuts ?', act: { kind: 'keys' } },
    { name: 'Sign out', hint: 'You', also: 'log out leave', act: { kind: 'sign out' } },
  ];
}

const MOST = 6;

/** How well a command answers what was typed; lower is better, null when a word is missing. */
function rank(command: Command, words: readonly string[]): number | null {
  const name = fold(command.name).split(' ');
  const also = fold(command.also).split(' ');
  let sum = 0;
  for (const word of words) {
    if (name[0]?.startsWith(word)) sum += 0;
    else if (name.some((part) => part.startsWith(word))) sum += 1;
    else if (also.some((part) => part.startsWith(word))) sum += 3;
    else return null;
  }
  return sum + (name.join(' ') === words.join(' ') ? -1 : 0);
}

/** The commands that what was typed names, best first. */
export function findCommands(typed: string, commands: readonly Command[]): Command[] {
  const words = fold(typed).split(' ').filter(Boolean);
  if (!words.length) return [];
  return commands
    .map((command) => ({ command, score: rank(command, words) }))
    .filter((one): one is { command: Command; score: number } => one.score !== null)
    .sort((a, b) => a.score - b.score)
    .slice(0, MOST)
    .map(({ command }) => command);
}
