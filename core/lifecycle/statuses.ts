/** How promising somebody judges a lead to be, hottest first. */
export const LEAD_RATINGS = ['hot', 'warm', 'cold'] as const;
export type LeadRating = (typeof LEAD_RATINGS)[number];

export const LEAD_STATUSES = ['new', 'working', 'qualified', 'converted', 'parked', 'dropped'] as const;
export type LeadStatus = (typeof LEAD_STATUSES)[number];

const NEXT: Record<LeadStatus, readonly LeadStatus[]> = {
  new: ['working', 'qualified', 'parked', 'dropped'],
  working: ['new', 'qualified', 'parked', 'dropped'],
  qualified: ['working', 'parked', 'dropped'],
  parked: ['new', 'working', 'qualified', 'dropped'],
  dropped: ['new', 'working'],
  converted: [],
};

/** The statuses a lead can be set to by hand. `converted` is reached only by conversion and left only by undoing it. */
export const nextStatuses = (status: LeadStatus): readonly LeadStatus[] => NEXT[status];

/**
 * Whether a change of status holds together.
 * @returns null when it does, else what is wrong, in words for the person who asked
 */
export function statusProblem(
  from: LeadStatus,
  to: LeadStatus,
  given: { parkedUntil?: string | null; dropReason?: string | null },
): string | null {
  if (from === to) return null;
  if (!NEXT[from].includes(to))
    return from === 'converted'
      ? 'This lead is converted; undo the conversion first.'
      : `A ${from} lead cannot become ${to}.`;
  if (to === 'parked' && !given.parkedUntil) return 'A parked lead needs the day it comes back.';
  if (to === 'dropped' && !given.dropReason?.trim()) return 'A dropped lead needs a reason.';
  return null;
}

/** Whether a lead in this status still wants work. */
export const isOpenLead = (status: LeadStatus): boolean =>
  status === 'new' || status === 'working' || status === 'qualified';
