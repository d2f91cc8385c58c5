<script setup lang="ts">
import type { CalendarItem } from '@emporikon/contract/meetings';
import {
  Calendar,
  type CalendarOptions,
  type EventClickArg,
  type EventContentArg,
  type EventDropArg,
} from '@fullcalendar/core';
import dayGrid from '@fullcalendar/daygrid';
import interaction, { type EventResizeDoneArg } from '@fullcalendar/interaction';
import timeGrid from '@fullcalendar/timegrid';
import { computed, onBeforeUnmount, onMounted, useTemplateRef, watch } from 'vue';
import { calendarDay, localeOf } from '../shell/format';
import { toField } from '../shell/moment';
import { addDays, type Span } from '../shell/days';
import { movedBy, placeOf, type Place } from './placing';

/**
 * A day, a week or a month by the hour. What is one's to change is dragged and stretched, or moved with Alt and the arrows;
 * an empty place that is pressed, or pulled over, is where something new begins.
 */
const props = defineProps<{
  span: Exclude<Span, 'agenda'>;
  day: string;
  first: number;
  items: readonly CalendarItem[];
  busy: readonly { start: string; end: string; name: string }[];
  /** Whether it is said of each whose it is. */
  showsWho: boolean;
  /** Times of a series that were moved, and so are tasks of their own: their new keys by the old. */
  became: ReadonlyMap<string, string>;
}>();
const emit = defineEmits<{
  open: [item: CalendarItem];
  move: [item: CalendarItem, to: Place];
  add: [place: Place];
}>();
const VIEWS = { day: 'timeGridDay', week: 'timeGridWeek', month: 'dayGridMonth' } as const;
const EARLIEST = '08:00';
const LATEST = '19:00';
const root = useTemplateRef('root');
let calendar: Calendar | null = null;

const canMove = (item: CalendarItem): boolean => !item.isDone;
const byKey = computed(() => new Map(props.items.map((item) => [item.key, item])));
const hourOf = (field: string): string => field.slice(11);
/** The hours that are shown reach from morning to evening, and to whatever is earlier or later. */
const hours = computed(() => {
  const places = props.items.filter(({ allDay }) => !allDay).map(placeOf);
  const isOverNight = places.some(
    ({ start, end }) => end.slice(0, 10) > start.slice(0, 10) && hourOf(end) !== '00:00',
  );
  const starts = places
    .map(({ start }) => hourOf(start))
    .concat(EARLIEST)
    .sort();
  const ends = places
    .map(({ end }) => (hourOf(end) === '00:00' ? '24:00' : hourOf(end)))
    .concat(LATEST)
    .sort();
  return isOverNight
    ? { slotMinTime: '00:00', slotMaxTime: '24:00' }
    : { slotMinTime: `${starts[0]?.slice(0, 2) ?? '07'}:00`, slotMaxTime: ends.at(-1) ?? LATEST };
});

/** What wants somebody, and stands before the title; then how it is besides. */
const stateOf = (item: CalendarItem): string =>
  item.isOverdue
    ? 'overdue'
    : item.answer === 'waiting' && !item.isExpected && !item.isDone
      ? 'to answer'
      : '';
function wordsOf(item: CalendarItem): string {
  const who = props.showsWho ? (item.assignee.name.split(' ')[0] ?? '') : '';
  return [item.isDone ? 'done' : '', item.isExpected ? 'repeats' : '', who].filter(Boolean).join(', ');
}
const toneOf = (item: CalendarItem): string[] => [
  item.about || item.with.length ? 'outside' : 'inside',
  ...(item.isDone ? ['over'] : []),
  ...(item.isOverdue ? ['overdue'] : []),
  ...(item.isExpected ? ['expected'] : []),
];

const events = computed(() => [
  ...props.items.map((item) => ({
    id: item.key,
    title: item.title,
    ...placeOf(item),
    editable: canMove(item),
    durationEditable: canMove(item),
    classNames: toneOf(item),
  })),
  ...props.busy.map(({ start, end, name }, index) => ({
    id: `busy ${index}`,
    title: `Busy: ${name}`,
    start: toField(start, false),
    end: toField(end, false),
    editable: false,
    interactive: false,
    classNames: ['busy'],
  })),
]);

/** The library keeps the clock of whoever looks as if it were UTC. */
const fieldOf = (date: Date | null, allDay: boolean): string =>
  (date ?? new Date()).toISOString().slice(0, allDay ? 10 : 16);
function placed({ event }: EventDropArg | EventResizeDoneArg): Place {
  const { allDay, start } = event;
  const end = event.end ?? new Date((start?.getTime() ?? 0) + (allDay ? 86_400_000 : 3_600_000));
  return { start: fieldOf(start, allDay), end: fieldOf(end, allDay), allDay };
}
function moveTo(arg: EventDropArg | EventResizeDoneArg): void {
  const item = byKey.value.get(arg.event.id);
  const to = placed(arg);
  // The page shows what is so; where the move is refused, nothing has moved.
  arg.revert();
  if (item) emit('move', item, to);
}

const options = computed((): CalendarOptions => ({
  plugins: [timeGrid, dayGrid, interaction],
  initialView: VIEWS[props.span],
  initialDate: props.day,
  headerToolbar: false,
  timeZone: 'UTC',
  locale: localeOf(),
  firstDay: props.first % 7,
  now: () => toField(new Date().toISOString(), false),
  nowIndicator: true,
  // The hours are as long as they are, and the page is scrolled: a part of it that scrolls cannot be reached by keyboard.
  height: props.span === 'month' ? '100%' : 'auto',
  ...hours.value,
  slotDuration: '00:30:00',
  snapDuration: '00:15:00',
  slotLabelFormat: { hour: '2-digit', minute: '2-digit' },
  eventTimeFormat: { hour: '2-digit', minute: '2-digit' },
  dayHeaderFormat:
    props.span === 'month' ? { weekday: 'short' } : { weekday: 'short', day: 'numeric', month: 'short' },
  allDayText: 'Day',
  fixedWeekCount: false,
  dayMaxEvents: true,
  eventInteractive: true,
  eventDisplay: 'block',
  selectable: true,
  selectMirror: true,
  longPressDelay: 250,
  defaultTimedEventDuration: '01:00',
  displayEventEnd: false,
  eventMinHeight: 20,
  eventContent: (arg) => ({ domNodes: [contentOf(arg)] }),
  eventClick: (arg: EventClickArg) => {
    arg.jsEvent.preventDefault();
    const item = byKey.value.get(arg.event.id);
    if (item) emit('open', item);
  },
  eventDrop: moveTo,
  eventResize: moveTo,
  select: ({ start, end, allDay }) =>
    emit('add', { start: fieldOf(start, allDay), end: fieldOf(end, allDay), allDay }),
  // A day is called by all that stands in it, and not by its number alone.
  dayCellDidMount: ({ el }) => el.removeAttribute('aria-labelledby'),
  // It is an anchor that leads nowhere, and opens what does not fit.
  moreLinkDidMount: ({ el }) => el.setAttribute('role', 'button'),
  eventDidMount: ({ el, event }) => {
    el.dataset.key = event.id;
    const item = byKey.value.get(event.id);
    if (item) el.setAttribute('aria-label', labelOf(item));
  },
}));

function labelOf(item: CalendarItem): string {
  const { start, end, allDay } = placeOf(item);
  const when = allDay
    ? [...new Set([start, addDays(end, -1)])].map(calendarDay).join(' to ')
    : `${calendarDay(start.slice(0, 10))}, ${hourOf(start)} to ${hourOf(end)}`;
  return [item.title, when, item.about, stateOf(item), wordsOf(item)].filter(Boolean).join(', ');
}

function press(event: KeyboardEvent): void {
  const key = (event.target as HTMLElement).closest<HTMLElement>('[data-key]')?.dataset.key ?? '';
  const item = byKey.value.get(key);
  if (!event.altKey || event.ctrlKey || event.metaKey || !item || !canMove(item)) return;
  const to = movedBy(placeOf(item), { name: event.key, isLonger: event.shiftKey });
  if (!to) return;
  event.preventDefault();
  emit('move', item, to);
}
/** The key of what has the focus; empty where it is elsewhere. */
function focusedKey(): string {
  const { activeElement } = document;
  const isHere = activeElement instanceof HTMLElement && root.value?.contains(activeElement);
  return isHere ? (activeElement.dataset.key ?? '') : '';
}
/** What has the focus keeps it where it stands now; a time of a series has another key once it was moved. */
function refocus(key: string): void {
  if (!key) return;
  const find = (named: string): HTMLElement | null | undefined =>
    root.value?.querySelector<HTMLElement>(`[data-key="${CSS.escape(named)}"]`);
  (find(key) ?? find(props.became.get(key) ?? ''))?.focus();
}
/** What is shown already is not mounted anew when it is moved, and is called by where it stands now. */
function rename(): void {
  for (const element of root.value?.querySelectorAll<HTMLElement>('[data-key]') ?? []) {
    const item = byKey.value.get(element.dataset.key ?? '');
    if (item) element.setAttribute('aria-label', labelOf(item));
  }
}

function contentOf(arg: EventContentArg): HTMLElement {
  const item = byKey.value.get(arg.event.id);
  const entry = document.createElement('span');
  entry.className = 'entry';
  const put = (kind: 'span' | 'b', name: string, text: string): void => {
    if (!text) return;
    const part = document.createElement(kind);
    part.className = name;
    part.textContent = `${text} `;
    entry.append(part);
  };
  put('span', 'time', arg.timeText);
  put('span', 'state', item ? stateOf(item) : '');
  put('b', 'title', arg.event.title);
  put('span', 'about', item?.about ?? '');
  put('span', 'words', item ? wordsOf(item) : '');
  return entry;
}

onMounted(() => {
  if (!root.value) return;
  calendar = new Calendar(root.value, { ...options.value, events: events.value });
  calendar.render();
});
onBeforeUnmount(() => calendar?.destroy());
watch(events, (now) => {
  const focused = focusedKey();
  calendar?.batchRendering(() => {
    calendar?.setOption('slotMinTime', hours.value.slotMinTime);
    calendar?.setOption('slotMaxTime', hours.value.slotMaxTime);
    calendar?.setOption('events', now);
  });
  rename();
  refocus(focused);
});
</script>

<template>
  <div ref="root" class="calendar" @keydown="press"></div>
</template>

<style src="./calendar.css"></style>
