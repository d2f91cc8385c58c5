<script setup lang="ts">
import type { About } from '@emporikon/contract/ledger';
import type { SearchHit } from '@emporikon/contract/settings';
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter, type RouteLocationRaw } from 'vue-router';
import { api } from '../shell/api';
import { due, plainNumber } from '../shell/format';
import { useSession } from '../shell/session';
import { useUndo } from '../shell/undo';
import { commandsFor, type Command } from './commands';
import { useRecent } from './recent';
import { useFind, type Option } from './useFind';

const QuickPanel = defineAsyncComponent(() => import('./QuickPanel.vue'));

/** The field that finds a record or does what is typed. Records and places are opened here; the rest is asked of the frame. */
const emit = defineEmits<{ command: [command: Command] }>();
const PATHS = {
  person: '/people/',
  company: '/companies/',
  lead: '/leads/',
  deal: '/deals/',
  project: '/projects/',
  case: '/cases/',
} as const;
const ABOUT: Record<string, keyof About> = {
  people: 'personId',
  companies: 'companyId',
  leads: 'leadId',
  deals: 'dealId',
  projects: 'projectId',
  cases: 'caseId',
};
/** A file opens beside the page one is on. */
const pathOf = ({ kind, id }: Pick<SearchHit, 'kind' | 'id'>): RouteLocationRaw =>
  kind === 'file' ? { query: { ...route.query, file: id } } : PATHS[kind] + id;
const router = useRouter();
const route = useRoute();
const session = useSession();
const undo = useUndo();
const field = useTemplateRef('field');
const recent = useRecent();
const commands = computed(() => commandsFor({ isAdmin: session.me?.role === 'admin', may: session.may }));
const about = (): About => {
  const [, list = '', id] = route.path.split('/');
  const key = ABOUT[list];
  return key && typeof route.params.id === 'string' && id ? { [key]: id } : {};
};
const { words, options, isAnswered } = useFind({
  commands: () => commands.value,
  recent: () => recent.value,
  about,
  fail: undo.fail,
});
const at = ref(0);
const isOpen = ref(false);
const chosen = computed(() => options.value[at.value] ?? null);
/** Of a record there is more to say than its name; a file is looked at when it is opened. */
const isLookedAt = computed(() => chosen.value?.kind === 'record' && chosen.value.hit.kind !== 'file');
watch(options, () => (at.value = 0));

/** Saves what was written in plain words: about the record that is open, or else as a next move of its own. */
async function save(option: Extract<Option, { kind: 'line' }>, line: string): Promise<void> {
  const { nextMove } = option.reading;
  if (Object.keys(about()).length) {
    const { saved, eventId } = await api('POST /api/ledger', { body: { line, about: about() } });
    undo.tell({ text: `Saved: ${saved.join(', ')}.`, eventId });
  } else if (nextMove) {
    const { title, kind, dueAt, allDay, assigneeId } = nextMove;
    const body = { title, kind, dueAt, allDay, assigneeId };
    const { task, eventId } = await api('POST /api/tasks', { body });
    undo.tell({ text: `Next move for ${task.assignee.name}: ${task.title}, ${due(task)}.`, eventId });
  }
}

function take(option: Option | null): void {
  if (!option) return;
  const line = words.value.trim();
  words.value = '';
  isOpen.value = false;
  field.value?.blur();
  if (option.kind === 'record') void router.push(pathOf(option.hit));
  else if (option.kind === 'tag') void router.push({ path: '/people', query: { tag: option.tag } });
  else if (option.kind === 'line') void save(option, line).catch(undo.fail);
  else if (option.command.act.kind === 'go') void router.push(option.command.act.to);
  else emit('command', option.command);
}

function press(event: KeyboardEvent): void {
  if (event.key === 'ArrowDown') at.value = Math.min(at.value + 1, options.value.length - 1);
  else if (event.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0);
  else if (event.key === 'Enter') take(chosen.value);
  else if (event.key === 'Escape') field.value?.blur();
  else return;
  event.preventDefault();
}

/** Leaving the field closes the list, unless the focus goes into the panel beside it. */
function leave(event: FocusEvent): void {
  const to = event.relatedTarget as HTMLElement | null;
  if (!to?.closest('.find')) isOpen.value = false;
}
const shortcut = (event: KeyboardEvent): void => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    field.value?.focus();
    field.value?.select();
  }
};
onMounted(() => {
  window.addEventListener('keydown', shortcut);
  // As a property Vuetify would give the role to the frame of the field, too.
  field.value?.$el.querySelector('input')?.setAttribute('role', 'combobox');
});
onBeforeUnmount(() => window.removeEventListener('keydown', shortcut));

const wordsOfLine = ({ nextMove, entry }: Extract<Option, { kind: 'line' }>['reading']): string =>
  [
    nextMove && `Next move: ${nextMove.title}, ${due(nextMove)}, ${nextMove.assignee}`,
    entry && `${entry.kind.charAt(0).toUpperCase()}${entry.kind.slice(1)}: ${entry.headline}`,
  ]
    .filter(Boolean)
    .join(' · ');
</script>

<template>
  <div class="find" role="search" @focusout="leave">
    <v-text-field
      ref="field"
      v-model="words"
      type="search"
      aria-label="Find a record or type what to do"
      aria-controls="found"
      :aria-expanded="isOpen && options.length > 0"
      :aria-activedescendant="isOpen && options.length ? `found-${at}` : undefined"
      placeholder="Find a person, company or number, or type what to do"
      autocomplete="off"
      @focus="isOpen = true"
      @keydown="press"
    >
      <template #append-inner><span class="key" aria-hidden="true">Ctrl K</span></template>
    </v-text-field>
    <div v-show="isOpen && options.length" class="found" :class="{ wide: isLookedAt }">
      <ul id="found" role="listbox" aria-label="Found">
        <template v-for="(option, index) in options" :key="option.key">
          <li
            v-if="option.group !== options[index - 1]?.group"
            class="cap group"
            role="presentation"
            aria-hidden="true"
          >
            {{ option.group }}
          </li>
          <li
            :id="`found-${index}`"
            role="option"
            :aria-selected="index === at"
            @mousedown.prevent="take(option)"
            @mousemove="at = index"
          >
            <template v-if="option.kind === 'record'"
              ><b>{{ option.hit.label }}</b> <span class="soft hint">{{ option.hit.hint }}</span><span
                class="cap kind"
                >{{ option.hit.inactive ? `inactive ${option.hit.kind}` : option.hit.kind }}</span
              ></template
            ><template v-else-if="option.kind === 'tag'"
              ><b>{{ option.tag }}</b
              ><span class="cap kind">People with this tag, {{ plainNumber(option.people) }}</span></template
            ><template v-else-if="option.kind === 'command'"
              ><b>{{ option.command.name }}</b
              ><span class="cap kind">{{ option.command.hint }}</span></template
            ><span v-else>{{ wordsOfLine(option.reading) }}</span>
          </li>
        </template>
      </ul>
      <QuickPanel v-if="isOpen && isLookedAt && chosen?.kind === 'record'" class="panel" :hit="chosen.hit" />
    </div>
    <p v-if="isOpen && isAnswered && !options.length" class="none soft" role="status">
      Nothing found for “{{ words }}”.
    </p>
  </div>
</template>

<style scoped>
.find {
  position: relative;
  flex: 1;
  max-width: 560px;
  min-width: 0;
}
.find :deep(input::-webkit-search-cancel-button) {
  display: none;
}
.key {
  margin-right: 6px;
}
.found,
.none {
  position: absolute;
  z-index: 20;
  left: 0;
  right: 0;
  top: 38px;
  margin: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.found {
  max-height: calc(100dvh - 70px);
  overflow-y: auto;
}
.found.wide {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 290px;
  right: auto;
  width: min(820px, calc(100vw - 28px));
}
ul {
  margin: 0;
  padding: 4px 0;
  list-style: none;
  min-width: 0;
}
.panel {
  border-left: 1px solid var(--rule2);
}
.none {
  padding: 8px 12px;
}
.group {
  padding: 4px 12px 0;
}
li[role='option'] {
  padding: 6px 12px;
  min-height: 34px;
  display: flex;
  gap: 8px;
  align-items: baseline;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--lit);
}
.hint {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
li .kind {
  margin-left: auto;
  white-space: nowrap;
}
@media (max-width: 800px) {
  .key,
  .panel {
    display: none;
  }
  .found.wide {
    display: block;
    right: 0;
    width: auto;
  }
}
</style>
