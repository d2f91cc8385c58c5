/** RFC 9457 problem details. `type` is stable; `detail` is for people: what happened, what was kept, what to do. */
export interface Problem {
  type: string;
  title: string;
  status: number;
  detail: string;
  /** Field names with what is wrong with each. */
  fields?: Record<string, string>;
  /** What stands there now, for a stale write; matches, for an open choice; reasons, for an undo that cannot be. */
  current?: Record<string, unknown>;
  reasons?: string[];
}

export class ProblemError extends Error {
  constructor(
    readonly problem: Problem,
    readonly headers: Record<string, string> = {},
  ) {
    super(problem.detail);
  }
}

const make =
  (type: string, title: string, status: number) =>
  (detail: string, more: Partial<Problem> = {}): ProblemError =>
    new ProblemError({ type: `urn:emporikon:problem:${type}`, title, status, detail, ...more });

export const notFound = make('not-found', 'Not found', 404);
export const invalid = make('invalid', 'Something is missing or wrong', 422);
export const signedOut = make('signed-out', 'Not signed in', 401);
export const forbidden = make('forbidden', 'Not allowed', 403);
export const misdirected = make('misdirected', 'Not served under this name', 421);
export const conflict = make('conflict', 'This clashes with what is there', 409);
export const cannotUndo = make('cannot-undo', 'This cannot be undone any more', 409);
export const hiddenRecord = make('hidden-record', 'On a record you cannot see', 409);
export const choiceNeeded = make('choice-needed', 'Somebody has to choose', 409);
export const tooLarge = make('too-large', 'Too large', 413);
export const tooMuch = make('too-much', 'Too much to read', 422);
export const unsupported = make('unsupported-type', 'This kind of content is not read', 415);
export const busy = (detail: string, seconds: number): ProblemError =>
  new ProblemError(
    { type: 'urn:emporikon:problem:busy', title: 'Busy', status: 503, detail },
    { 'retry-after': String(seconds) },
  );
export const tooMany = (detail: string, seconds: number): ProblemError =>
  new ProblemError(
    { type: 'urn:emporikon:problem:too-many', title: 'Too many attempts', status: 429, detail },
    { 'retry-after': String(seconds) },
  );

/** Somebody else saved first. Carries what they saved, so that the person can choose. */
export const stale = (current: Record<string, unknown>): ProblemError =>
  new ProblemError({
    type: 'urn:emporikon:problem:stale',
    title: 'Changed by somebody else',
    status: 409,
    detail: 'This was changed since you opened it. Nothing was overwritten; choose which value to keep.',
    current,
  });

export const codeFirst = (): ProblemError =>
  new ProblemError({
    type: 'urn:emporikon:problem:code-first',
    title: 'Set up codes first',
    status: 403,
    detail: 'Your organisation asks you to sign in with a code as well. Set it up first, under Sign-in.',
  });
