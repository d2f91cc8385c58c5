/** How pressing somebody's trouble is. */
export type Urgency = 'urgent' | 'normal' | 'low';

/** What is known of a case: moments in ISO 8601, null where they have not come. */
export interface CaseFacts {
  answerBy: string;
  solveBy: string;
  /** When one of us spoke or wrote to them about it first. */
  answeredAt: string | null;
  /** Whose turn it is, by what was said about it. */
  turn: 'ours' | 'theirs' | 'nobody';
  solvedAt: string | null;
}

export interface CaseState {
  /** new: nobody answered yet. ours: they wait for us. theirs: we wait for them. answered: neither waits for a word. */
  state: 'new' | 'ours' | 'theirs' | 'answered' | 'solved';
  /** By when the next thing that was promised is due; null once it is solved. */
  dueAt: string | null;
  /** Which promise is broken. */
  late: 'answer' | 'solution' | null;
}

/**
 * Where a case stands.
 * @param now ISO 8601
 */
export function caseState(facts: CaseFacts, now: string): CaseState {
  const { answerBy, solveBy, answeredAt, turn, solvedAt } = facts;
  if (solvedAt)
    return {
      state: 'solved',
      dueAt: null,
      late: Date.parse(solvedAt) > Date.parse(solveBy) ? 'solution' : null,
    };
  const isPast = (moment: string): boolean => Date.parse(now) > Date.parse(moment);
  if (!answeredAt) return { state: 'new', dueAt: answerBy, late: isPast(answerBy) ? 'answer' : null };
  return {
    state: turn === 'nobody' ? 'answered' : turn,
    dueAt: solveBy,
    late: isPast(solveBy) ? 'solution' : null,
  };
}
