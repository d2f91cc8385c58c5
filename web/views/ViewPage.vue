<script setup lang="ts">
import type { FoundRecord, QueryField } from '@emporikon/contract/queries';
import { hasDays, hasLanes } from '@emporikon/core/query/layout';
import { TOTALS } from '@emporikon/core/query/operators';
import type { Comparison, Filter, Group } from '@emporikon/core/query/types';
import { computed, defineAsyncComponent, watch } from 'vue';
import RecordTable from '../kit/RecordTable.vue';
import SelectionBar from '../bulk/SelectionBar.vue';
import { wordsOf } from '../shell/api';
import ConditionStrip from './ConditionStrip.vue';
import FootMenu from './FootMenu.vue';
import HeadMenu from './HeadMenu.vue';
import { ViewCalendar, ViewCards, ViewLanes, ViewMap } from './layouts';
import { isBulkKind, LINKED, VIEWED, type ViewedKind } from './kinds';
import { cardOf } from './useCards';
import { useFound } from './useFound';
import { useRecordAddress } from './useRecordAddress';
import { useSaving } from './useSaving';
import { useShown } from './useShown';
import { useTypedStart } from './useTypedStart';
import { useView } from './useView';
import ViewHead from './ViewHead.vue';
import ViewTools from './ViewTools.vue';

const SaveView = defineAsyncComponent(() => import('./SaveView.vue'));

const props = defineProps<{ kind: ViewedKind }>();
const open = useView(props.kind);
const { views, view, draft, query, isChanged, fields, spec, registry, error, change, reset, load } = open;
const place = VIEWED[props.kind];

const start = useTypedStart(draft, fields, spec);
const {
  items,
  hasMore,
  more,
  error: listError,
  isOld,
  reload,
  totals,
  ticked,
} = useFound(props.kind, query, start);

const whole = computed(() => totals.value?.items[0] ?? null);
const { columns, textOf, headings, groupName, countWords, totalWords, byGroup } = useShown(
  draft,
  fields,
  spec,
  computed(() => totals.value?.items ?? []),
);
const missing = computed(() => (draft.value?.columns ?? []).filter((key) => !fields.value.has(key)));
const linkOf = (row: FoundRecord, key: string): string | null => {
  const id = row.links[key];
  return id && LINKED[key] ? `${LINKED[key]}/${id}` : null;
};
const nameOf = (row: FoundRecord): string => String(row.values[spec.value?.name ?? ''] ?? '');
const toRecord = useRecordAddress(props.kind);

const card = cardOf(columns, fields, textOf, nameOf, toRecord);
/** A field that is gone, or has its values no more, makes a table of lanes and calendar. */
const layoutField = (as: 'lanes' | 'calendar', fits: (field: QueryField) => boolean): QueryField | null => {
  const layout = draft.value?.layout;
  const field = layout?.as === as ? fields.value.get(layout.by ?? '') : undefined;
  return field && fits(field) ? field : null;
};
const laneField = computed(() => layoutField('lanes', hasLanes));
const dayField = computed(() => layoutField('calendar', hasDays));
const isMap = computed(() => draft.value?.layout.as === 'map' && fields.value.has('place'));
const groups = computed(() => draft.value?.groups ?? []);
/** What stands above the records, however they are shown. */
const tools = computed(() => ({
  query: query.value,
  layout: draft.value?.layout ?? { as: 'table' as const },
  title: title.value,
  total: whole.value?.count ?? null,
  fields: fields.value,
  columns: draft.value?.columns ?? [],
  totals: draft.value?.totals ?? [],
  name: spec.value?.name ?? '',
  count: whole.value ? countWords(whole.value.count) : '',
  sums: totalWords(whole.value?.totals),
}));
/** A condition takes the place of others on its field. */
const withCondition = (condition: Comparison): { conditions: Filter[] } => ({
  conditions: [
    ...(draft.value?.conditions ?? []).filter((one) => !('field' in one && one.field === condition.field)),
    condition,
  ],
});
const addCondition = (condition: Comparison): void => change(withCondition(condition));
const showDay = (condition: Comparison): void =>
  change({ ...withCondition(condition), layout: { as: 'table' } });
const group = (one: Group): void =>
  change({ groups: [one, ...groups.value.filter(({ field }) => field !== one.field)].slice(0, 3) });
const hide = (key: string): void =>
  change({ columns: (draft.value?.columns ?? []).filter((one) => one !== key) });

const { saving, save, saved, remove } = useSaving(open, place.views);
const title = computed(() => view.value?.name ?? `New view of ${spec.value?.many ?? 'records'}`);
watch(title, (name) => (document.title = `${name} · Emporikon`), { immediate: true });
const problem = computed(() => error.value || listError.value || '');
const retry = (): Promise<unknown> =>
  Promise.all([load(), reload()]).catch((reason: unknown) => (error.value = wordsOf(reason)));
</script>

<template>
  <div class="page">
    <ViewHead
      :view="view"
      :views="views"
      :title="title"
      :place="place.views"
      :is-changed="isChanged"
      @save="save"
      @save-as="saving = 'new'"
      @discard="reset"
      @rename="saving = 'name'"
      @remove="remove"
    />
    <ConditionStrip
      v-if="draft && spec && registry"
      :conditions="draft.conditions"
      :groups="draft.groups"
      :order="draft.order"
      :layout="draft.layout"
      :spec="spec"
      :registry="registry"
      :fields="fields"
      @change="change"
    />
    <p v-if="missing.length" class="wrong">
      {{ missing.length === 1 ? 'A column of this view is' : 'Columns of this view are' }} no longer there:
      {{ missing.join(', ') }}.
      <v-btn class="word" @click="change({ columns: draft?.columns.filter((key) => fields.has(key)) })"
        >Remove</v-btn
      >
    </p>
    <div v-if="draft && spec && draft.layout.as !== 'table'" class="tools">
      <ViewTools v-bind="tools" @change="change" />
    </div>
    <p v-if="problem && draft?.layout.as === 'cards'" class="wrong" role="alert">
      {{ problem }} <v-btn class="word" @click="retry">Try again</v-btn>
    </p>
    <ViewLanes
      v-if="draft && query && laneField"
      :kind="kind"
      :query="query"
      :by="laneField"
      :card-of="card"
      :total-words="totalWords"
    />
    <ViewCalendar
      v-else-if="draft && query && dayField"
      :kind="kind"
      :query="query"
      :by="dayField"
      :card-of="card"
      @day="showDay"
    />
    <ViewMap
      v-else-if="draft && query && isMap"
      :kind="kind"
      :query="query"
      :conditions="draft.conditions"
      :card-of="card"
      :count-words="countWords"
      @area="addCondition"
    />
    <ViewCards
      v-else-if="draft?.layout.as === 'cards' && items"
      :kind="kind"
      :rows="items"
      :has-more="hasMore"
      :card-of="card"
      :headings="headings"
      :group-name="groupName"
      @more="more"
    />
    <RecordTable
      v-else-if="draft && spec"
      v-model:selected="ticked"
      name="view"
      :label="title"
      is-fixed
      :columns="columns"
      :rows="items"
      :error="problem"
      :has-more="hasMore"
      :is-old="isOld"
      :name-of="nameOf"
      :to="toRecord"
      :headings="headings"
      :is-typed="start.isPossible.value"
      @typed="start.letters.value = $event"
      @more="more"
      @retry="retry"
    >
      <template #tools>
        <span v-if="start.letters.value" class="soft"
          >from “{{ start.letters.value }}” on
          <v-btn class="word" @click="start.letters.value = ''">Back to the top</v-btn></span
        >
        <ViewTools v-bind="tools" @change="change" />
      </template>
      <template #head="{ column }">
        <HeadMenu
          v-if="fields.get(column.key)"
          :field="fields.get(column.key)!"
          :order="draft.order"
          :is-name="column.key === spec.name"
          @filter="addCondition"
          @sort="change({ order: [$event] })"
          @group="group"
          @hide="hide(column.key)"
        />
      </template>
      <template #heading="{ heading, row }">
        <span :class="heading.level ? 'within' : 'outer'">{{ groupName(row, heading.level) }}</span>
        <span v-if="byGroup.get(heading.key)" class="soft">
          {{ countWords(byGroup.get(heading.key)!.count) }}</span
        >
        <b v-if="totalWords(byGroup.get(heading.key)?.totals)" class="num sum">{{
          totalWords(byGroup.get(heading.key)?.totals)
        }}</b>
      </template>
      <template #cell="{ row, column }">
        <RouterLink v-if="column.isName && toRecord(row)" :to="toRecord(row)"
          ><b>{{ textOf(row, column.key) || 'Untitled' }}</b></RouterLink
        >
        <b v-else-if="column.isName">{{ textOf(row, column.key) }}</b>
        <RouterLink v-else-if="linkOf(row, column.key)" :to="linkOf(row, column.key)!" class="quiet-link">{{
          textOf(row, column.key)
        }}</RouterLink>
        <span v-else-if="column.key === 'nextMoveDue' && !row.values.nextMoveDue" class="none">none</span>
        <template v-else>{{ textOf(row, column.key) }}</template>
      </template>
      <template #foot="{ column }">
        <span v-if="column.isName && whole" class="num">{{ countWords(whole.count) }}</span>
        <FootMenu
          v-else-if="fields.get(column.key) && TOTALS[fields.get(column.key)!.type].length"
          :field="fields.get(column.key)!"
          :totals="draft.totals"
          :values="whole?.totals ?? null"
          @change="change({ totals: $event })"
        />
      </template>
      <template #empty><p class="empty">Nothing meets these conditions.</p></template>
    </RecordTable>
    <p v-else-if="error" class="wrong" role="alert">
      {{ error }} <v-btn class="word" @click="load">Try again</v-btn>
    </p>
    <SelectionBar
      v-if="isBulkKind(kind)"
      :kind="kind"
      :ids="ticked"
      :query="query"
      :total="whole?.count"
      @clear="ticked = []"
      @done="reload"
    />
    <SaveView
      v-if="saving && query"
      :view="saving === 'name' ? view : null"
      :query="query"
      :layout="draft?.layout ?? { as: 'table' }"
      @saved="saved($event.view, $event.eventId)"
      @close="saving = null"
    />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  gap: 16px;
  align-items: baseline;
  padding: 6px 0;
}
.none {
  font-weight: 600;
  color: var(--wait);
}
.outer {
  font: 600 15px var(--head);
}
.within {
  font-weight: 600;
  color: var(--soft);
}
.sum {
  float: right;
}
</style>
