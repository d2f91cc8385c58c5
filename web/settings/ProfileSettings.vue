<script setup lang="ts">
import { computed } from 'vue';
import PageHead from '../kit/PageHead.vue';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import { calendarDay, clock, money, plainNumber, todayOf } from '../shell/format';
import { useSession } from '../shell/session';
import { useLooks, type ThemeChoice } from '../shell/theme';
import { useUndo } from '../shell/undo';

/** How days, numbers and the program itself look to me. */
const session = useSession();
const undo = useUndo();
const { choice } = useLooks();
const zones = Intl.supportedValuesOf('timeZone');
const LOCALES = [
  'en-GB',
  'en-IE',
  'en-US',
  'en-CA',
  'en-AU',
  'de-DE',
  'de-AT',
  'de-CH',
  'fr-FR',
  'fr-BE',
  'nl-NL',
  'nl-BE',
  'pt-PT',
  'pt-BR',
  'es-ES',
  'it-IT',
  'sv-SE',
  'nb-NO',
  'da-DK',
  'fi-FI',
  'pl-PL',
  'cs-CZ',
];
const locales = computed(() => {
  const names = new Intl.DisplayNames('en-GB', { type: 'language', languageDisplay: 'standard' });
  return [
    { value: '', title: `As this browser (${navigator.language})` },
    ...LOCALES.map((tag) => ({ value: tag, title: names.of(tag) ?? tag })),
  ];
});
const THEMES: { value: ThemeChoice; title: string }[] = [
  { value: 'system', title: 'Same as this device' },
  { value: 'vellum', title: 'Light' },
  { value: 'lamplight', title: 'Dark' },
];
const example = computed(() =>
  [
    calendarDay(todayOf()),
    clock(new Date().toISOString()),
    plainNumber(1234.5),
    money(123456, session.me?.currency ?? 'EUR'),
  ].join(' · '),
);

const { data: places } = useFetched(() => api('GET /api/calendar/places'), []);
const holidays = computed(() => [
  { value: '', title: 'As your organisation’s country' },
  ...(places.value?.items ?? []).map(({ code, name }) => ({ value: code, title: name })),
]);

async function put(
  patch: { timeZone?: string; locale?: string | null; holidays?: string | null },
  text: string,
): Promise<void> {
  try {
    session.me = await api('PATCH /api/session', { body: patch });
    undo.tell({ text, eventId: null });
  } catch (error) {
    undo.fail(error);
  }
}
</script>

<template>
  <PageHead title="Profile and language" help="Only you see these settings." />
  <div class="fields">
    <v-autocomplete
      label="Time zone"
      hint="All times are shown in this zone."
      persistent-hint
      :model-value="session.me?.timeZone"
      :items="zones"
      @update:model-value="$event && put({ timeZone: $event }, `Times are now shown in ${$event}.`)"
    />
    <v-select
      label="Dates and numbers"
      :hint="`For example: ${example}`"
      persistent-hint
      :model-value="session.me?.locale ?? ''"
      :items="locales"
      @update:model-value="put({ locale: $event || null }, 'Dates and numbers changed.')"
    />
    <v-autocomplete
      label="Public holidays"
      hint="Working days skip them, and no task is proposed for one."
      persistent-hint
      :model-value="session.me?.holidays ?? ''"
      :items="holidays"
      @update:model-value="put({ holidays: $event || null }, 'Public holidays changed.')"
    />
    <v-select v-model="choice" label="Theme" hint="Kept on this device." persistent-hint :items="THEMES" />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  gap: 16px;
  max-width: 420px;
}
</style>
