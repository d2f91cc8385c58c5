import type { Standing } from '../lifecycle/standing';
import type { CompanyKind, Held } from '../lifecycle/terms';
import type { LeadStatus } from '../lifecycle/statuses';

export type Visibility = 'everybody' | 'owner' | 'team' | 'named';

/** Records of which many can be changed at once. */
export const BULK_KINDS = ['person', 'company', 'lead', 'deal'] as const;
export type BulkKind = (typeof BULK_KINDS)[number];

/** One thing that is done to each of many records. Ids are those of users, stages, lists, projects. */
export type Step =
  | { do: 'owner'; to: string | null }
  /** Standings, kinds and statuses by the keys of their terms. */
  | { do: 'standing'; to: string }
  | { do: 'kind'; to: string }
  | { do: 'status'; to: string; parkedUntil?: string; dropReason?: string }
  /** Another term in the place of one that counts as the same. */
  | { do: 'reterm'; from: string; to: string }
  | { do: 'stage'; to: string }
  | { do: 'source'; to: string }
  | { do: 'tag'; tags: readonly string[] }
  | { do: 'untag'; tags: readonly string[] }
  /** Another tag in the place of one, written just so; null takes it away. */
  | { do: 'retag'; from: string; to: string | null }
  | { do: 'field'; key: string; to: string }
  | { do: 'active'; to: boolean }
  | { do: 'important'; to: boolean }
  | { do: 'list'; to: string }
  | { do: 'unlist'; to: string }
  | { do: 'project'; to: string }
  | { do: 'next move'; title: string; due: string }
  /** Who sees it: everybody, whose it is, one team, or colleagues by name. */
  | { do: 'visible'; to: Visibility; only?: readonly string[] }
  /** For good; stands alone. */
  | { do: 'erase'; note: string };

/** Which steps a record of each kind can take. */
export const STEPS_OF: Readonly<Record<BulkKind, readonly Step['do'][]>> = {
  person: [
    'owner',
    'standing',
    'reterm',
    'tag',
    'untag',
    'retag',
    'list',
    'unlist',
    'field',
    'next move',
    'project',
    'active',
    'important',
    'visible',
    'erase',
  ],
  company: ['owner', 'kind', 'reterm', 'field', 'next move', 'important', 'visible'],
  lead: ['owner', 'status', 'reterm', 'source', 'field', 'next move', 'visible'],
  deal: ['owner', 'stage', 'tag', 'untag', 'retag', 'field', 'next move', 'visible'],
};

/** A record as far as a step looks at it. */
export interface BulkRecord {
  id: string;
  name: string;
  ownerId: string | null;
  standing?: Standing;
  standingTerm?: string | null;
  kind?: CompanyKind;
  kindTerm?: string | null;
  status?: LeadStatus;
  statusTerm?: string | null;
  parkedUntil?: string | null;
  /** The open status a parked lead comes back to. */
  parkedFrom?: LeadStatus | null;
  dropReason?: string | null;
  source?: string;
  tags?: readonly string[];
  /** Values of an organisation's own fields by key. */
  custom?: Readonly<Record<string, string>>;
  /** ISO 8601; null while they are active. */
  inactiveSince?: string | null;
  isImportant?: boolean;
  visibility?: Visibility | null;
  /** The team, or the colleagues, who see it. */
  visibleTo?: readonly string[];
  stageId?: string;
  probability?: number;
  probabilityByHand?: boolean;
  /** Ids of the lists and projects it is on, as far as the steps name them. */
  on?: ReadonlySet<string>;
}

/** What the steps name, as it stands when they are taken. */
export interface Named {
  /** What users, stages, lists and projects are called, by id. */
  called: (id: string) => string;
  /** A standing, status or kind by its key; null once it is gone. */
  term: (key: string) => (Held & { name: string }) | null;
  /** What the fields are called, by key. */
  label: (key: string) => string;
  /** Whether whoever changes it may say who sees a record of this owner. */
  decidesSight: (ownerId: string | null) => boolean;
  stage: (id: string) => { kind: 'open' | 'won' | 'lost'; pipelineId: string; probability: number } | null;
  /** ISO 8601. */
  now: string;
}

/** A row that comes to be beside the record. */
export type Addition =
  | { add: 'list'; to: string }
  | { add: 'project'; to: string }
  | { add: 'next move'; title: string; due: string };

/** What the steps come to for one record. */
export type Verdict =
  | {
      will: 'change';
      /** New values of its columns. */
      patch: Readonly<Record<string, unknown>>;
      additions: readonly Addition[];
      /** It is erased for good. */
      erases: boolean;
      /** Lists it leaves. */
      leaves: readonly string[];
      /** What changes, in words for its ledger. */
      said: string;
    }
  | { will: 'stay' }
  | { will: 'refuse'; why: string };
