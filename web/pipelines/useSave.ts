import { useUndo } from '../shell/undo';

/** Runs a command, says what was done with its undo, and reads anew; what fails is said. */
export function useSave(load: () => Promise<void>) {
  const undo = useUndo();
  return async (text: string, command: () => Promise<{ eventId: string | null }>): Promise<boolean> => {
    try {
      const { eventId } = await command();
      undo.tell({ text, eventId });
      await load();
      return true;
    } catch (problem) {
      undo.fail(problem);
      await load();
      return false;
    }
  };
}
