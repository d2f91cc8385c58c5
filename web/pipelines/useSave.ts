import { ApiProblem } from '../shell/api';
import { useUndo } from '../shell/undo';

/** Whether it was done; the problem itself where somebody else saved first. */
export type Saved = boolean | ApiProblem;

/**
 * Runs a command, says what was done with its undo, and reads anew; what fails is said.
 * @returns whether it was done; the problem itself where somebody else saved first, for whoever offers the choice
 */
export function useSave(load: () => Promise<void>) {
  const undo = useUndo();
  return async (text: string, command: () => Promise<{ eventId: string | null }>): Promise<Saved> => {
    try {
      const { eventId } = await command();
      undo.tell({ text, eventId });
      await load();
      return true;
    } catch (problem) {
      await load();
      undo.fail(problem);
      return problem instanceof ApiProblem && problem.isStale ? problem : false;
    }
  };
}
