<script setup lang="ts">
import type { Gaps, Suggestion } from '@emporikon/contract/lookups';
import { computed, defineAsyncComponent, ref } from 'vue';
import SourceMark from '../kit/SourceMark.vue';
import { api } from '../shell/api';
import { counted, fieldName, percent, shortDay } from '../shell/format';
import { useFetched } from '../shell/live';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';

/** How complete a record is, what to add next, and what is suggested for it. */
const props = defineProps<{ personId?: string; companyId?: string; name: string }>();
const emit = defineEmits<{ changed: [] }>();
const LookUpDialog = defineAsyncComponent(() => import('./LookUpDialog.vue'));
const undo = useUndo();
const session = useSession();
const mayChange = computed(() => session.may(props.personId ? 'people.change' : 'companies.change'));
const isAsking = ref(false);
/** Folded until it is asked for, so that nothing below moves when it comes. */
const isOpen = ref(false);
const offered = computed(
  () => (gaps.value?.suggestions.length ?? 0) + Math.min(2, gaps.value?.likelyEmails.length ?? 0),
);
const { data: gaps, load } = useFetched(
  () => api('GET /api/gaps', { query: { personId: props.personId, companyId: props.companyId } }),
  ['people', 'companies', 'contact_points', 'claims'],
  () => [props.personId, props.companyId],
);
type Missing = NonNullable<Gaps['person']>['missing'];
const missing = computed<Missing>(() => {
  const own = props.personId ? gaps.value?.person : gaps.value?.company;
  return (own?.missing ?? []).slice(0, 3);
});
const score = computed(() => (props.personId ? gaps.value?.person?.score : gaps.value?.company?.score) ?? 0);

async function decide(one: Suggestion, take: boolean): Promise<void> {
  try {
    const { eventId } = await api(
      take ? 'POST /api/suggestions/:id/acceptance' : 'POST /api/suggestions/:id/refusal',
      { params: { id: one.claim.id } },
    );
    undo.tell({ text: `${take ? 'Used' : 'Rejected'} ${one.claim.value}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
  emit('changed');
}

async function take(email: string): Promise<void> {
  if (!props.personId) return;
  try {
    const { eventId } = await api('POST /api/people/:id/contacts', {
      params: { id: props.personId },
      body: { kind: 'email', value: email },
    });
    undo.tell({ text: `Added ${email}.`, eventId });
  } catch (problem) {
    undo.fail(problem);
  }
  await load();
  emit('changed');
}

function done(): void {
  void load();
  emit('changed');
}
</script>

<template>
  <div class="gaps">
    <template v-if="gaps">
      <div class="line">
        <meter min="0" max="100" :value="score" aria-label="Complete, of 100"></meter>
        <span :title="missing.map((one) => `${one.label}, ${counted(one.points, 'point')}`).join('; ')"
          ><b class="num">{{ score }}</b> of 100 complete<template v-if="missing[0]"
            >; next {{ missing[0].label.toLowerCase() }}</template
          ></span
        >
        <v-btn
          v-if="mayChange"
          class="word"
          :title="gaps.lookedUp ? `Last looked up ${shortDay(gaps.lookedUp)}` : undefined"
          @click="isAsking = true"
          >Look up</v-btn
        >
        <v-btn v-if="offered && mayChange" class="word on" :aria-expanded="isOpen" @click="isOpen = !isOpen">
          {{ counted(offered, 'suggestion') }}
        </v-btn>
      </div>
      <div v-for="one in isOpen ? gaps.suggestions : []" :key="one.claim.id" class="line suggestion">
        <span
          ><span class="cap">{{ fieldName(one.claim.field, one.claim.type) }}</span>
          <b>{{ one.claim.value }}</b><SourceMark :claim="one.claim" />
          <span class="soft"
            >from {{ one.claim.source }}, {{ percent(one.claim.confidence) }} sure<template v-if="one.held"
              >; now “{{ one.held }}”<template v-if="one.heldSource"
                >, {{ one.heldSource }}</template
              ></template
            ></span
          ></span
        >
        <v-btn class="word on" :aria-label="`Use ${one.claim.value}`" @click="decide(one, true)"> Use </v-btn>
        <v-btn class="word" :aria-label="`Reject ${one.claim.value}`" @click="decide(one, false)">
          Reject
        </v-btn>
      </div>
      <div
        v-for="one in isOpen ? gaps.likelyEmails.slice(0, 2) : []"
        :key="one.email"
        class="line suggestion"
      >
        <span
          ><span class="cap">Likely address</span> <b>{{ one.email }}</b>
          <span class="soft">{{ percent(one.probability) }}: {{ one.because }}</span></span
        >
        <v-btn class="word on" :aria-label="`Add ${one.email}`" @click="take(one.email)">Add</v-btn>
      </div>
    </template>
    <div v-else class="line"><span class="ghost" style="width: 40%"></span></div>
    <LookUpDialog
      v-if="isAsking"
      :people="personId ? [personId] : undefined"
      :companies="companyId ? [companyId] : undefined"
      :name="name"
      @done="done"
      @close="isAsking = false"
    />
  </div>
</template>

<style scoped>
.gaps {
  min-width: 0;
}
.line {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 14px;
  align-items: baseline;
  min-height: 26px;
}
.suggestion {
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
}
.suggestion .cap {
  margin-right: 6px;
}
meter {
  width: 90px;
  height: 8px;
  appearance: none;
  border: 1px solid var(--rule);
  border-radius: 3px;
  overflow: hidden;
}
meter::-webkit-meter-bar {
  background: var(--sheet);
  border: 0;
  border-radius: 0;
  height: 8px;
}
meter::-webkit-meter-optimum-value {
  background: var(--theirs);
}
</style>
