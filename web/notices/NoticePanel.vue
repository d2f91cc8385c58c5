<script setup lang="ts">
import type { Notice } from '@emporikon/contract/notices';
import { noticeWords } from '@emporikon/core/ledger/notices';
import { computed } from 'vue';
import { useRouter, type RouteLocationRaw } from 'vue-router';
import SidePanel from '../kit/SidePanel.vue';
import { api } from '../shell/api';
import { when } from '../shell/format';
import { usePaged } from '../shell/usePaged';
import { useUndo } from '../shell/undo';

/** What is for whoever is signed in: mentions, tasks they were given, what became of those they gave. */
const emit = defineEmits<{ close: []; read: [] }>();
const router = useRouter();
const undo = useUndo();
const { items, hasMore, more, error, reload } = usePaged<Notice>(
  (cursor) => api('GET /api/notices', { query: { cursor } }),
  ['notices'],
);
const hasUnread = computed(() => items.value?.some((notice) => !notice.isRead) ?? false);

const PLACES = { person: 'people', company: 'companies', lead: 'leads', deal: 'deals' } as const;
const placeOf = ({ about, taskId }: Notice): RouteLocationRaw => ({
  path: about ? `/${PLACES[about.kind]}/${about.id}` : '/round',
  query: taskId ? { task: taskId } : {},
});

async function mark(notice: Notice, isRead: boolean): Promise<void> {
  try {
    await api('PATCH /api/notices/:id', { params: { id: notice.id }, body: { isRead } });
    emit('read');
    await reload();
  } catch (problem) {
    undo.fail(problem);
  }
}
async function open(notice: Notice): Promise<void> {
  if (!notice.isRead) void mark(notice, true);
  emit('close');
  await router.push(placeOf(notice));
}
async function markAll(): Promise<void> {
  try {
    await api('POST /api/notices/read', { body: {} });
    emit('read');
    await reload();
  } catch (problem) {
    undo.fail(problem);
  }
}
</script>

<template>
  <SidePanel label="For you" @close="emit('close')">
    <div class="notices">
      <p v-if="error" class="wrong" role="alert">{{ error }}</p>
      <p v-else-if="items && !items.length" class="empty">
        Nothing yet. You hear here when a colleague mentions you (@name), gives you a task or a record, and
        what becomes of the tasks you gave.
      </p>
      <v-btn v-if="hasUnread" class="word" @click="markAll">Mark all as read</v-btn>
      <ol>
        <li v-for="notice in items ?? []" :key="notice.id" :class="{ unread: !notice.isRead }" data-notice>
          <RouterLink :to="placeOf(notice)" class="quiet-link" @click.prevent="open(notice)">{{
            noticeWords(notice)
          }}</RouterLink>
          <span class="cap"
            >{{ when(notice.at) }}<template v-if="notice.about"> · {{ notice.about.name }}</template></span
          >
          <v-btn
            class="word"
            :aria-label="`Mark as ${notice.isRead ? 'unread' : 'read'}: ${notice.title}`"
            @click="mark(notice, !notice.isRead)"
          >
            {{ notice.isRead ? 'Mark as unread' : 'Mark as read' }}
          </v-btn>
        </li>
      </ol>
      <v-btn v-if="hasMore" class="quiet" @click="more">Show earlier</v-btn>
    </div>
  </SidePanel>
</template>

<style scoped>
.notices {
  padding: 10px 24px 24px;
}
ol {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 14px;
  padding: 8px 0;
  border-top: 1px solid var(--rule);
}
li a {
  grid-column: 1 / 3;
  overflow-wrap: anywhere;
}
.unread a {
  font-weight: 600;
}
@media (max-width: 700px) {
  .notices {
    padding: 8px 14px 20px;
  }
}
</style>
