import { useUndo } from '../shell/undo';

/** Does something with a task, says what was done, and offers to take it back. */
export function useTaskAction(): (
  text: string,
  command: () => Promise<{ eventId: string | null }>,
) => Promise<boolean> {
  const undo = useUndo();
  return async (text, command) => {
    try {
      const { eventId } = await command();
      undo.tell({ text, eventId });
      return true;
    } catch (problem) {
      undo.fail(problem);
      return false;
    }
  };
}
