<script setup lang="ts">
import { vFocus } from './focus';
import type { Reply } from '@emporikon/contract';
import type { CaptureDetail, Claim } from '@emporikon/contract/captures';
import { ref } from 'vue';
import MessageBody from '../arrivals/MessageBody.vue';
import { api, wordsOf } from '../shell/api';
import { clock, day, fieldName, percent } from '../shell/format';

const props = defineProps<{ claim: Claim }>();
const emit = defineEmits<{ close: [] }>();
const capture = ref<CaptureDetail | null>(null);
const lookUp = ref<Reply<'GET /api/look-ups/:id'> | null>(null);
const error = ref('');
const lit = ref<string | null>(null);

async function open(): Promise<void> {
  try {
    if (props.claim.lookUpId)
      lookUp.value = await api('GET /api/look-ups/:id', { params: { id: props.claim.lookUpId } });
    if (!props.claim.captureId) return;
    const found = await api('GET /api/captures/:id', { params: { id: props.claim.captureId } });
    const isAmong = found.claims.some((claim) => claim.id === props.claim.id);
    capture.value = isAmong ? found : { ...found, claims: [...found.claims, props.claim] };
    lit.value = props.claim.id;
  } catch (problem) {
    error.value = wordsOf(problem);
  }
}
void open();
</script>

<template>
  <v-dialog
    :model-value="true"
    max-width="760"
    scrollable
    aria-labelledby="evidence-title"
    @update:model-value="emit('close')"
  >
    <v-card class="sheet">
      <h2 id="evidence-title">{{ fieldName(claim.field, claim.type) }}: {{ claim.value }}</h2>
      <p class="soft">
        {{ claim.source }}<template v-if="claim.actor">, {{ claim.actor }}</template
        >, {{ day(claim.at) }} {{ clock(claim.at)
        }}<template v-if="!claim.byHand"> · {{ percent(claim.confidence) }} sure</template>
      </p>
      <div v-if="capture" class="raw"><MessageBody v-model:lit="lit" :capture="capture" /></div>
      <p v-else-if="error" class="wrong" role="alert">{{ error }}</p>
      <div v-else-if="lookUp" class="raw">
        <p>
          Asked for <b>{{ Object.values(lookUp.question).filter(Boolean).join(', ') }}</b>{{
            lookUp.by ? ` by ${lookUp.by.name}` : ', automatic'
          }}. It answered:
        </p>
        <dl>
          <template v-for="fact in lookUp.facts" :key="`${fact.label} ${fact.value}`">
            <dt>{{ fact.label }}</dt>
            <dd>
              {{ fact.value }} <span class="soft">{{ percent(fact.confidence) }} sure, it says</span>
            </dd>
          </template>
        </dl>
      </div>
      <p v-else-if="claim.byHand" class="soft">Entered by hand; there is no source message.</p>
      <p v-else-if="!claim.captureId && !claim.lookUpId" class="soft">
        {{ claim.actor ? 'Imported from a table.' : `Worked out automatically: ${claim.source}.` }}
      </p>
      <div class="foot">
        <v-btn v-focus class="quiet" @click="emit('close')">Close</v-btn>
        <RouterLink v-if="claim.captureId" class="quiet-link" :to="`/arrivals/${claim.captureId}`"
          >Open the original</RouterLink
        >
      </div>
    </v-card>
  </v-dialog>
</template>

<style scoped>
.sheet {
  padding: 18px 22px;
}
.raw {
  overflow-y: auto;
  max-height: 52vh;
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 4px 16px;
  margin: 0;
}
dd {
  margin: 0;
}
.foot {
  display: flex;
  gap: 16px;
  align-items: center;
  padding-top: 12px;
}
p {
  margin: 4px 0 10px;
}
</style>
