import type { CalendarClash } from '@emporikon/contract/caldav';
import { calendarDay, clock, day } from '../shell/format';

type Facts = CalendarClash['here'];

/** When an event takes place: "Thu 3 Dec, 10:00–10:45", or its day. */
const timeWords = ({ start, end, allDay }: Facts): string =>
  allDay ? calendarDay(start) : `${day(start)}, ${clock(start)}–${clock(end)}`;

/** What of an event is another there than here, in words. */
export function factsWords(facts: Facts, parts: CalendarClash['parts']): string {
  const words = {
    title: `“${facts.title}”`,
    time: timeWords(facts),
    place: facts.place || 'no place',
    notes: facts.notes ? `notes “${facts.notes.slice(0, 80)}”` : 'no notes',
  };
  return (parts.length ? parts : (['time'] as const)).map((part) => words[part]).join(', ');
}
