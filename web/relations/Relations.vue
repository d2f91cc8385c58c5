<script setup lang="ts">
import DateField from '../kit/DateField.vue';
import type { Reply } from '@emporikon/contract';
import type { EmploymentRow } from '@emporikon/contract/relations';
import { computed, ref, shallowRef, watch } from 'vue';
import { useSave, type Saved } from '../pipelines/useSave';
import { api } from '../shell/api';
import { useFetched } from '../shell/live';
import RecordPicker from '../kit/RecordPicker.vue';

/** Who somebody is to others, and where else they work or worked. */
const props = defineProps<{ personId: string; version: number }>();
const emit = defineEmits<{ changed: [] }>();
const { data, load } = useFetched(
  () => api('GET /api/people/:id/relations', { params: { id: props.personId } }),
  ['relations', 'relation_kinds', 'employments', 'people', 'companies'],
  () => [props.personId],
);
const save = useSave(load);
const isOpen = ref(false);
/** Asked for when somebody begins to relate people. */
const kinds = shallowRef<Reply<'GET /api/relation-kinds'> | null>(null);
watch(isOpen, async (now) => {
  if (now) kinds.value ??= await api('GET /api/relation-kinds').catch(() => null);
});
const kind = ref('');
const work = ref({ companyId: '', company: '', jobTitle: '', fromDay: '', untilDay: '', isMain: false });
/** Each kind both ways round, unless it is the same seen from both ends. */
const ways = computed(() =>
  (kinds.value?.items ?? [])
    .filter((item) => item.active)
    .flatMap((item) => [
      { value: `${item.id}/to`, words: item.name },
      ...(item.name === item.reverse ? [] : [{ value: `${item.id}/from`, words: item.reverse }]),
    ]),
);
const params = computed(() => ({ id: props.personId }));

async function relate(personId: string): Promise<void> {
  const [kindId = '', way] = (kind.value || (ways.value[0]?.value ?? '')).split('/');
  await save('Added.', () =>
    api('POST /api/people/:id/relations', {
      params: params.value,
      body: { kindId, personId, isReverse: way === 'from' },
    }),
  );
}

async function addWork(): Promise<void> {
  const { companyId, company, jobTitle, fromDay, untilDay, isMain } = work.value;
  const made = isMain
    ? await save('Works there now.', () =>
        api('PATCH /api/people/:id', {
          params: params.value,
          body: { version: props.version, companyId, ...(jobTitle ? { jobTitle } : {}) },
        }),
      )
    : await save('Added.', () =>
        api('POST /api/people/:id/employments', {
          params: params.value,
          body: {
            ...(companyId ? { companyId } : { companyName: company }),
            jobTitle,
            fromDay: fromDay || null,
            untilDay: untilDay || null,
          },
        }),
      );
  if (made)
    work.value = { companyId: '', company: '', jobTitle: '', fromDay: '', untilDay: '', isMain: false };
  if (isMain) emit('changed');
}

const period = ({ fromDay, untilDay }: EmploymentRow): string => {
  const [from, until] = [fromDay?.slice(0, 7), untilDay?.slice(0, 7)];
  if (from && until) return `${from} to ${until}`;
  return from ? `since ${from}` : until ? `until ${until}` : '';
};
const untilNow = (one: EmploymentRow): Promise<Saved> =>
  save('Ended.', () =>
    api('PATCH /api/employments/:id', {
      params: { id: one.id },
      body: { version: one.version, untilDay: new Date().toISOString().slice(0, 10) },
    }),
  );
</script>

<template>
  <section class="relations" aria-label="Relations">
    <span v-for="one in data?.items ?? []" :key="one.id" class="one">
      <span class="soft">{{ one.words }}</span>
      <RouterLink :to="`/people/${one.person.id}`" class="quiet-link">{{ one.person.name }}</RouterLink>
      <v-btn
        v-if="isOpen"
        class="word"
        :aria-label="`No longer ${one.words} ${one.person.name}`"
        @click="save('Removed.', () => api('DELETE /api/relations/:id', { params: { id: one.id } }))"
      >
        ×
      </v-btn>
    </span>
    <span v-for="one in data?.employments ?? []" :key="one.id" class="one">
      <span class="soft">{{ one.isFormer ? 'was' : 'also' }} {{ one.jobTitle }} at</span>
      <RouterLink :to="`/companies/${one.company.id}`" class="quiet-link">{{ one.company.name }}</RouterLink>
      <span v-if="period(one)" class="soft num">{{ period(one) }}</span>
      <template v-if="isOpen">
        <v-btn v-if="!one.isFormer" class="word" @click="untilNow(one)">Ended today</v-btn>
        <v-btn
          class="word"
          :aria-label="`Remove ${one.company.name}`"
          @click="save('Removed.', () => api('DELETE /api/employments/:id', { params: { id: one.id } }))"
        >
          ×
        </v-btn>
      </template>
    </span>
    <v-btn class="word" :aria-expanded="isOpen" @click="isOpen = !isOpen">
      {{ isOpen ? 'Done' : 'Relations and companies' }}
    </v-btn>
    <div v-if="isOpen" class="adds">
      <div class="line" role="group" aria-label="A relation">
        <v-select
          v-model="kind"
          label="New relation"
          :items="ways.map((one, at) => ({ value: at ? one.value : '', title: one.words }))"
        />
        <RecordPicker kind="person" label="Person" placeholder="Person" @pick="relate($event.id)" />
      </div>
      <form class="line" aria-label="A company" @submit.prevent="addWork">
        <b v-if="work.companyId">{{ work.company }}</b>
        <RecordPicker
          v-else
          kind="company"
          label="Company they work for"
          placeholder="Another company they work for"
          @pick="
            work.companyId = $event.id;
            work.company = $event.label;
          "
          @typed="work.company = $event"
        />
        <v-text-field v-model="work.jobTitle" label="Job title there" />
        <v-checkbox v-if="work.companyId" v-model="work.isMain" label="Their main company now" />
        <template v-if="!work.isMain">
          <DateField v-model="work.fromDay" label="Since" />
          <DateField v-model="work.untilDay" label="Until" />
        </template>
        <v-btn class="quiet" type="submit" :disabled="!work.company.trim()">Add</v-btn>
      </form>
    </div>
  </section>
</template>

<style scoped>
.relations {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  padding: 0;
  align-items: baseline;
}
.one {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0 6px;
  align-items: baseline;
}
.adds,
.line {
  flex-basis: 100%;
  display: grid;
  gap: 8px;
}
.adds {
  gap: 16px;
  padding: 6px 0;
}
@media (max-width: 700px) {
  .relations {
    padding: 8px 0 0;
    border-left: 0;
  }
}
</style>
