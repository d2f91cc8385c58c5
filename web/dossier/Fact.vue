<script setup lang="ts">
import type { Claim } from '@emporikon/contract/captures';
import { nextTick, ref } from 'vue';
import { ApiProblem } from '../shell/api';
import { useUndo } from '../shell/undo';
import SourceMark from './SourceMark.vue';

/**
 * One fact on a card, edited in place. When somebody else saved first, both values are shown and the person chooses;
 * nothing is lost either way.
 */
const props = defineProps<{
  label: string;
  /** The value as it is edited. */
  value: string | null;
  /** The value as it is read, where that is another. */
  shown?: string;
  kind?: 'text' | 'date';
  claim?: Claim | null;
  suggestion?: Claim | null;
  placeholder?: string;
  href?: string;
  /** Saves; gets the draft and, after a clash, the version to write over. */
  save?: (value: string, version?: number) => Promise<void>;
  /** The name of the field in the record, to find the other value in a clash. */
  field: string;
}>();
const undo = useUndo();
const input = ref<HTMLInputElement | null>(null);
const isEditing = ref(false);
const draft = ref('');
const clash = ref<{ theirs: string; version: number } | null>(null);
let settled = true;

function edit(): void {
  if (!props.save) return;
  draft.value = props.value ?? '';
  settled = false;
  isEditing.value = true;
  void nextTick(() => input.value?.select());
}

async function keep(version?: number): Promise<void> {
  if (settled && version === undefined) return;
  settled = true;
  isEditing.value = false;
  if (version === undefined && draft.value.trim() === (props.value ?? '')) return;
  try {
    await props.save?.(draft.value.trim(), version);
    clash.value = null;
  } catch (error) {
    const current = error instanceof ApiProblem && error.isStale ? error.problem.current : undefined;
    if (!current) return undo.fail(error);
    clash.value = { theirs: String(current[props.field] ?? 'nothing'), version: Number(current.version) };
  }
}

function cancel(): void {
  settled = true;
  isEditing.value = false;
}
</script>

<template>
  <div class="fact" :data-fact="field">
    <span class="cap">{{ label }}</span>
    <input
      v-if="isEditing"
      ref="input"
      v-model="draft"
      class="inline-edit"
      :type="kind ?? 'text'"
      :aria-label="label"
      @keydown.enter.prevent="keep()"
      @keydown.esc.stop="cancel"
      @blur="keep()"
    />
    <div v-else class="value">
      <button
        v-if="save"
        class="plain"
        :aria-label="`${label}: ${shown ?? value ?? 'empty'}, change`"
        @click="edit"
      >
        <span v-if="value">{{ shown ?? value }}</span><span v-else class="soft">{{
          placeholder ?? 'add'
        }}</span>
      </button>
      <a v-else-if="href" :href="href" class="quiet-link">{{ value }}</a>
      <span v-else>{{ shown ?? value }}</span>
      <slot />
      <SourceMark :claim="claim ?? null" :suggestion="suggestion" />
    </div>
    <div v-if="clash" class="clash" role="alert">
      <span
        >Somebody saved <b>{{ clash.theirs }}</b> meanwhile; you wrote <b>{{ draft || 'nothing' }}</b>.</span
      >
      <button class="word on" @click="clash = null">Keep theirs</button>
      <button class="word on" @click="keep(clash.version)">Put mine</button>
    </div>
  </div>
</template>

<style scoped>
.fact {
  padding: 5px 0;
  border-top: 1px solid var(--rule2);
  min-width: 0;
}
.cap {
  display: block;
  line-height: 1.2;
}
.value {
  min-height: 24px;
  overflow-wrap: anywhere;
}
.plain {
  min-height: 24px;
  min-width: 24px;
}
.plain:hover {
  text-decoration: underline;
  text-decoration-color: var(--rule);
  text-underline-offset: 3px;
}
.clash {
  border-left: 3px solid var(--wait-line);
  padding-left: 8px;
  font-size: 13px;
}
</style>
