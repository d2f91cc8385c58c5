/** Letters that follow each other sooner than this are one word. */
const PAUSE_MS = 900;

/**
 * Letters typed where nothing takes them, gathered into the beginning of a word.
 * @param onTyped is told all letters since the last pause, with each that comes
 * @returns `take` says whether a key was such a letter; a space is one only within a word
 */
export function useTypedLetters(onTyped: (letters: string) => void): {
  take: (event: KeyboardEvent) => boolean;
} {
  let [letters, last] = ['', 0];
  return {
    take({ key, ctrlKey, metaKey, altKey, timeStamp }) {
      if (ctrlKey || metaKey || altKey) return false;
      const isGoing = letters !== '' && timeStamp - last < PAUSE_MS;
      if (!/^[\p{L}\p{N}]$/u.test(key) && !(key === ' ' && isGoing)) return false;
      letters = isGoing ? letters + key : key;
      last = timeStamp;
      onTyped(letters);
      return true;
    },
  };
}
