<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import { useRoute, useRouter, type RouteLocationNormalizedLoaded } from 'vue-router';
import { hasBackgroundWork } from './background';
import { usePageKeys } from './browser';
import IncomingCall from '../calls/IncomingCall.vue';
import { withoutMeeting } from '../meetings/link';
import Masthead from './Masthead.vue';
import NewVersion from './NewVersion.vue';
import { useSession } from './session';
import { useLooks } from './theme';
import { useUndo } from './undo';
import Undo from '../kit/Undo.vue';

const TaskPanel = defineAsyncComponent(() => import('../tasks/TaskPanel.vue'));
const NewMeeting = defineAsyncComponent(() => import('../meetings/NewMeeting.vue'));
const BackgroundWork = defineAsyncComponent(() => import('./BackgroundWork.vue'));
const session = useSession();
const undo = useUndo();
const route = useRoute();
const router = useRouter();
const { choice } = useLooks();
/** The page of a record is made anew for each record: nothing of the one before stays on it. */
const recordPathOf = ({ matched, path }: RouteLocationNormalizedLoaded): string | undefined =>
  matched.at(0)?.props.default === true ? path : undefined;
/** A task stands beside whatever page it was opened from, and so in every address. */
const taskId = computed(() => (typeof route.query.task === 'string' ? route.query.task : null));
const closeTask = (): unknown => router.push({ query: { ...route.query, task: undefined, time: undefined } });
const HistoryPanel = defineAsyncComponent(() => import('../history/HistoryPanel.vue'));
const historyId = computed(() => (typeof route.query.history === 'string' ? route.query.history : null));
const closeHistory = (): unknown => router.push({ query: { ...route.query, history: undefined } });
const FilePanel = defineAsyncComponent(() => import('../files/FilePanel.vue'));
const fileId = computed(() => (typeof route.query.file === 'string' ? route.query.file : null));
const closeFile = (): unknown => router.push({ query: { ...route.query, file: undefined } });
const isNewMeeting = computed(() => route.query.meeting === 'new');
const closeMeeting = (): unknown => router.push({ query: withoutMeeting(route.query) });
const isFramed = computed(() => session.me !== null && !session.me.mustAddCode && route.meta.open !== true);

usePageKeys((event) => {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && undo.canUndo) {
    event.preventDefault();
    void undo.undo();
  }
});
</script>

<template>
  <v-app>
    <a class="skip" href="#main">To the page</a>
    <Masthead v-if="isFramed" v-model:theme="choice" />
    <NewVersion />
    <IncomingCall v-if="isFramed" />
    <main id="main" tabindex="-1" :class="{ framed: isFramed }">
      <RouterView v-slot="{ Component, route: shown }">
        <component :is="Component" :key="recordPathOf(shown)" />
      </RouterView>
    </main>
    <NewMeeting v-if="isFramed && isNewMeeting" @close="closeMeeting" />
    <HistoryPanel v-else-if="isFramed && historyId" :id="historyId" :key="historyId" @close="closeHistory" />
    <FilePanel v-else-if="isFramed && fileId" :id="fileId" :key="fileId" @close="closeFile" />
    <TaskPanel v-else-if="isFramed && taskId" :id="taskId" :key="taskId" @close="closeTask" />
    <BackgroundWork v-if="isFramed && hasBackgroundWork" />
    <Undo />
  </v-app>
</template>

<style scoped>
main {
  flex: 1;
  min-height: 0;
  display: flex;
  flex-direction: column;
  outline: none;
}
@media (max-width: 700px) {
  .framed {
    padding-bottom: 58px;
  }
}
.skip {
  position: absolute;
  left: -9999px;
}
.skip:focus {
  left: 8px;
  top: 8px;
  z-index: 10;
  background: var(--sheet);
  padding: 6px 12px;
}
</style>
