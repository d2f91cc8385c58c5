<script setup lang="ts">
import { Editor } from '@tiptap/core';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue';
import { vFocus } from './focus';
import { asHref, EXTENSIONS } from './richText';

/**
 * Text with bold, lists, quotes and links. A word behind a semicolon is a shortcut: `suggest` says what it brings, and Tab
 * takes it.
 */
const props = defineProps<{
  label: string;
  placeholder?: string;
  isReadOnly?: boolean;
  /** What the word behind a semicolon stands for; null where it stands for nothing. */
  suggest?: (word: string) => { id: string; name: string } | null;
}>();
const model = defineModel<string>({ required: true });
const emit = defineEmits<{ take: [id: string] }>();

const SHORTCUT = /(?:^|\s);([\p{L}\p{N}_-]{1,30})$/u;
const offered = ref<{ id: string; name: string; from: number; to: number } | null>(null);
const isLinking = ref(false);
const href = ref('');

const place = useTemplateRef('place');
/** What the toolbar says of the selection is worked out again with every step. */
const step = ref(0);
const editor = shallowRef<Editor | null>(null);
onMounted(() => {
  editor.value = new Editor({
    element: place.value,
    content: model.value,
    editable: !props.isReadOnly,
    injectCSS: false,
    extensions: EXTENSIONS,
    editorProps: {
      attributes: {
        role: 'textbox',
        'aria-multiline': 'true',
        'aria-label': props.label,
        ...(props.isReadOnly ? { 'aria-readonly': 'true' } : {}),
      },
      handleKeyDown(_view, event) {
        if (event.key === 'Tab' && !event.shiftKey && offered.value) {
          take();
          return true;
        }
        if (event.key === 'k' && (event.ctrlKey || event.metaKey) && !event.shiftKey) {
          event.stopPropagation();
          openLink();
          return true;
        }
        return false;
      },
    },
    onUpdate({ editor: now }) {
      model.value = now.isEmpty ? '' : now.getHTML();
      look();
    },
    onSelectionUpdate: look,
    onTransaction: () => void step.value++,
  });
});
onBeforeUnmount(() => editor.value?.destroy());

function look(): void {
  const state = editor.value?.state;
  if (!state || !props.suggest) return;
  const { $from, empty } = state.selection;
  const before = $from.parent.textBetween(0, $from.parentOffset, '\n', '\n').slice(-40);
  const word = empty ? SHORTCUT.exec(before)?.[1] : undefined;
  const found = word ? props.suggest(word) : null;
  offered.value = found && word ? { ...found, from: $from.pos - word.length - 1, to: $from.pos } : null;
}

function take(): void {
  const found = offered.value;
  if (!found) return;
  offered.value = null;
  editor.value?.chain().deleteRange({ from: found.from, to: found.to }).run();
  emit('take', found.id);
}

watch(model, (html) => {
  const now = editor.value;
  if (!now || html === (now.isEmpty ? '' : now.getHTML())) return;
  now.commands.setContent(html, { emitUpdate: false });
});
watch(
  () => props.isReadOnly,
  (is) => editor.value?.setEditable(!is),
);

const MARKS = [
  { name: 'bold', word: 'Bold', run: () => editor.value?.chain().focus().toggleBold().run() },
  { name: 'italic', word: 'Italic', run: () => editor.value?.chain().focus().toggleItalic().run() },
  { name: 'bulletList', word: 'Bullets', run: () => editor.value?.chain().focus().toggleBulletList().run() },
  {
    name: 'orderedList',
    word: 'Numbers',
    run: () => editor.value?.chain().focus().toggleOrderedList().run(),
  },
  { name: 'blockquote', word: 'Quote', run: () => editor.value?.chain().focus().toggleBlockquote().run() },
] as const;
const isOn = (name: string): boolean => step.value >= 0 && (editor.value?.isActive(name) ?? false);
const isLink = computed(() => isOn('link'));

function openLink(): void {
  href.value = String(editor.value?.getAttributes('link').href ?? '');
  isLinking.value = true;
}
function putLink(): void {
  isLinking.value = false;
  const chain = editor.value?.chain().focus().extendMarkRange('link');
  if (!chain) return;
  const typed = href.value.trim();
  if (!typed) return void chain.unsetMark('link').run();
  const attrs = { href: asHref(typed) };
  if (editor.value?.state.selection.empty && !isLink.value)
    chain.insertContent({ type: 'text', text: typed, marks: [{ type: 'link', attrs }] }).run();
  else chain.setMark('link', attrs).run();
}

/** Writes where the caret is. */
function insert(text: string): void {
  editor.value?.chain().focus().insertContent(text).run();
}
/** Goes to the end of what one writes oneself, before what is quoted. */
function focusOwn(): void {
  void nextTick(() => {
    const now = editor.value;
    if (!now) return;
    let end = now.state.doc.content.size;
    now.state.doc.forEach((node, offset) => {
      if (node.type.name === 'blockquote') end = Math.min(end, offset);
    });
    now.commands.focus(end === now.state.doc.content.size ? 'end' : 1);
  });
}
defineExpose({ insert, focusOwn });
</script>

<template>
  <div class="rich" :class="{ still: isReadOnly }">
    <div v-if="!isReadOnly" class="tools" role="toolbar" :aria-label="`Format: ${label}`">
      <v-btn
        v-for="mark in MARKS"
        :key="mark.name"
        class="word"
        :class="{ on: isOn(mark.name) }"
        :aria-pressed="isOn(mark.name)"
        @mousedown.prevent
        @click="mark.run"
        >{{ mark.word }}</v-btn
      >
      <v-btn class="word" :class="{ on: isLink }" :aria-pressed="isLink" @mousedown.prevent @click="openLink"
        >Link</v-btn
      >
      <slot name="tools" />
    </div>
    <form v-if="isLinking" class="link" @submit.prevent="putLink" @keydown.esc.stop="isLinking = false">
      <v-text-field
        v-model="href"
        v-focus
        label="Link to"
        placeholder="wharfside.example/offer"
        maxlength="2000"
      />
      <v-btn class="quiet" type="submit">{{ href.trim() ? 'Set the link' : 'Remove the link' }}</v-btn>
    </form>
    <div class="sheet" :data-empty="!model && !isReadOnly ? (placeholder ?? '') : undefined">
      <div ref="place"></div>
    </div>
    <p v-if="offered" class="cap offered" role="status">
      Tab puts in <b>{{ offered.name }}</b>
    </p>
  </div>
</template>

<style scoped>
.rich {
  display: grid;
  gap: 4px;
  min-width: 0;
}
.tools {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: baseline;
}
.on {
  font-weight: 700;
}
.link {
  display: flex;
  gap: 10px;
  align-items: end;
}
.sheet {
  position: relative;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 3px;
}
.sheet[data-empty]::before {
  content: attr(data-empty);
  position: absolute;
  inset: 14px 18px auto;
  color: var(--soft);
  pointer-events: none;
}
.still .sheet {
  border-color: transparent;
  background: transparent;
}
.sheet :deep(.ProseMirror) {
  min-height: 220px;
  padding: 14px 18px;
  outline: none;
  white-space: pre-wrap;
  overflow-wrap: anywhere;
  font-size: 15px;
  line-height: 1.5;
}
.still .sheet :deep(.ProseMirror) {
  min-height: 0;
  padding: 0;
}
.sheet:focus-within {
  border-color: var(--ours);
}
.sheet :deep(p) {
  margin: 0 0 10px;
  min-height: 1.5em;
}
.sheet :deep(blockquote) {
  margin: 0 0 10px;
  padding-left: 12px;
  border-left: 2px solid var(--theirs);
  color: var(--soft);
}
.sheet :deep(ul),
.sheet :deep(ol) {
  margin: 0 0 10px;
  padding-left: 24px;
}
.sheet :deep(li p) {
  margin: 0;
}
.offered {
  margin: 0;
}
</style>
