const TIME = /^(\d{1,2})(?:\s?[:.h]\s?(\d{2})|(\d{2}))?\s?(?:(a|p)\.?m?\.?|h|uhr)?$/;

/**
 * The time of day somebody typed into a field: "9", "9:30", "9.30", "930", "3pm", "15h".
 * @returns HH:MM on a clock of 24 hours, or null when it is none
 */
export function readTypedTime(text: string): string | null {
  const match = TIME.exec(text.trim().toLowerCase());
  if (!match) return null;
  const [minute, half] = [Number(match[2] ?? match[3] ?? 0), match[4]];
  let hour = Number(match[1]);
  if (half) {
    if (hour < 1 || hour > 12) return null;
    hour = (hour % 12) + (half === 'p' ? 12 : 0);
  }
  if (hour > 23 || minute > 59) return null;
  return `${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;
}
