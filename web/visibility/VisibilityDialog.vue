<script setup lang="ts">
import type { Sight, SightChoice, SightKind } from '@emporikon/contract/visibility';
import { computed, ref, shallowRef } from 'vue';
import { api, wordsOf } from '../shell/api';
import { useUndo } from '../shell/undo';
import ChoiceFields from './ChoiceFields.vue';
import { sightInWords } from './words';

const props = defineProps<{ kind: SightKind; id: string }>();
const emit = defineEmits<{ close: []; saved: [] }>();
const undo = useUndo();
const sight = shallowRef<Sight | null>(null);
const teams = shallowRef<Awaited<ReturnType<typeof api<'GET /api/teams'>>>['items']>([]);
const choice = ref<SightChoice>({ visibility: 'everybody' });
const error = ref('');
const isBusy = ref(false);
const isMissing = computed(
  () =>
    (choice.value.visibility === 'team' && !choice.value.teamId) ||
    (choice.value.visibility === 'named' && !choice.value.peopleIds?.length),
);

const PLACES: Partial<Record<SightKind, string>> = {
  people: '/people',
  companies: '/companies',
  leads: '/leads',
  deals: '/deals',
  captures: '/arrivals',
};

async function read(): Promise<void> {
  try {
    const [found, known] = await Promise.all([
      api('GET /api/visibility/:kind/:id', { params: { kind: props.kind, id: props.id } }),
      api('GET /api/teams'),
    ]);
    teams.value = known.items;
    sight.value = found;
    choice.value = {
      visibility: found.visibility,
      teamId: found.team?.id,
      peopleIds: found.people.map(({ id }) => id),
    };
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void read();

async function save(): Promise<void> {
  isBusy.value = true;
  error.value = '';
  try {
    const { eventId } = await api('PUT /api/visibility/:kind/:id', {
      params: { kind: props.kind, id: props.id },
      body: choice.value,
    });
    undo.tell({ text: 'Changed who can see this.', eventId });
    emit('saved');
    emit('close');
  } catch (problem) {
    error.value = wordsOf(problem);
  } finally {
    isBusy.value = false;
  }
}
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="460"
    aria-labelledby="sight-title"
    @update:model-value="emit('close')"
  >
    <v-card class="sight">
      <h2 id="sight-title">Who can see this</h2>
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <template v-if="sight">
        <p v-if="sight.mayChange" class="soft">
          Everyone else will not find it, nor the leads, deals, notes and messages that belong to it. The
          owner always sees it.
        </p>
        <p v-else class="soft">Only the owner, a manager or an admin can change this.</p>
        <ChoiceFields
          v-model="choice"
          :teams="teams"
          label="Visible to"
          :is-off="!sight.mayChange || isBusy"
        />
        <p v-if="sight.seenBy" class="now">
          Now {{ sightInWords(sight).replace('Visible', 'visible')
          }}<template v-if="sight.because.length"
            >, because of
            <template v-for="(one, at) in sight.because" :key="one.id"
              >{{ at ? ', ' : ''
              }}<RouterLink
                v-if="PLACES[one.kind]"
                class="quiet-link"
                :to="`${PLACES[one.kind]}/${one.id}`"
                >{{ one.name || 'a record' }}</RouterLink
              ><template v-else>{{ one.name }}</template></template
            ></template
          >.
        </p>
      </template>
      <template v-else-if="!error"><span v-for="n in 3" :key="n" class="ghost"></span></template>
      <div class="actions">
        <v-btn v-if="sight?.mayChange" class="fill" :disabled="isMissing" :loading="isBusy" @click="save"
          >Save</v-btn
        >
        <v-btn class="quiet" @click="emit('close')">Cancel</v-btn>
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sight {
  padding: 18px 22px;
  display: grid;
  gap: 12px;
}
.now {
  font-size: 13px;
}
.actions {
  display: flex;
  gap: 10px;
  margin-top: 4px;
}
</style>
