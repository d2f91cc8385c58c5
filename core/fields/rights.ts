/** From which role on somebody may see or change a field. */
export const LEVELS = ['everybody', 'managers', 'admins'] as const;
export type Level = (typeof LEVELS)[number];

const RANK: Readonly<Record<'rep' | 'manager' | 'admin', number>> = { rep: 0, manager: 1, admin: 2 };

/** @param role of whoever asks; null for the program itself, which may do all */
export const mayReach = (level: Level, role: keyof typeof RANK | null): boolean =>
  role === null || RANK[role] >= LEVELS.indexOf(level);
