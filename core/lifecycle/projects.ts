/** One thing that was sold, as a line of a deal has it. */
export interface SoldLine {
  name: string;
  quantity: number;
}

/** What was sold, for the notes of a project: a line each. */
export const soldInWords = (lines: readonly SoldLine[]): string =>
  lines.map(({ name, quantity }) => `${quantity} × ${name}`).join('\n');

/**
 * How far a project is, in per cent: as somebody set it, else by its tasks that are done; all of it once it is done.
 * @returns null where nothing says how far it is
 */
export function progressOf(project: {
  kind: 'open' | 'done' | 'stopped';
  byHand: number | null;
  tasks: number;
  tasksDone: number;
}): number | null {
  if (project.kind === 'done') return 100;
  if (project.byHand !== null) return project.byHand;
  return project.tasks ? Math.floor((project.tasksDone / project.tasks) * 100) : null;
}
