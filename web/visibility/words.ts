import type { Sight, SightKind, Visibility } from '@emporikon/contract/visibility';

export const CHOICES: readonly { value: Visibility; title: string }[] = [
  { value: 'everybody', title: 'Everybody' },
  { value: 'owner', title: 'The owner and their managers' },
  { value: 'team', title: 'A team' },
  { value: 'named', title: 'Named people' },
];

export const KINDS: readonly { value: SightKind; title: string }[] = [
  { value: 'people', title: 'People' },
  { value: 'companies', title: 'Companies' },
  { value: 'leads', title: 'Leads' },
  { value: 'deals', title: 'Deals' },
  { value: 'captures', title: 'Arrivals' },
  { value: 'ledger', title: 'Ledger entries' },
  { value: 'tasks', title: 'Next moves' },
];

const firstNames = (people: readonly { name: string }[]): string => {
  const names = people.map(({ name }) => name.split(' ')[0] ?? name);
  return names.length > 3
    ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} more`
    : names.length > 1
      ? `${names.slice(0, -1).join(', ')} and ${names.at(-1) ?? ''}`
      : (names[0] ?? 'nobody');
};

/** Who may see a record, in a few words. */
export const sightInWords = ({ seenBy }: Pick<Sight, 'seenBy'>): string =>
  seenBy ? `Visible to ${firstNames(seenBy)}` : 'Visible to everybody';
