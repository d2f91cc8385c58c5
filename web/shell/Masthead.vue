<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { shownCount } from './format';
import { api } from './api';
import type { Command, Makeable } from '../find/commands';
import FindField from '../find/FindField.vue';
import { usePageKeys } from './browser';
import { useBrowserNotices } from '../notices/useBrowserNotices';
import { isLive, useFetched } from './live';
import { placeOf, sectionOf, sectionsFor } from './map';
import { useSession } from './session';
import type { ThemeChoice } from './theme';

const theme = defineModel<ThemeChoice>('theme', { required: true });
const CaptureDialog = defineAsyncComponent(() => import('./CaptureDialog.vue'));
const session = useSession();
const MakeDialog = defineAsyncComponent(() => import('../make/MakeDialog.vue'));
const NoticePanel = defineAsyncComponent(() => import('../notices/NoticePanel.vue'));
const KeysDialog = defineAsyncComponent(() => import('./KeysDialog.vue'));
const isCapturing = ref(false);
const areNoticesShown = ref(false);
const making = ref<Exclude<Makeable, 'call'> | null>(null);
const areKeysShown = ref(false);
const { data: counts, load: recount } = useFetched(
  () => api('GET /api/counts'),
  ['captures', 'tasks', 'leads', 'deals', 'notices'],
);
useBrowserNotices(() => counts.value?.notices);
const forYou = computed(() =>
  counts.value?.notices ? `For you (${shownCount(counts.value.notices)})` : 'For you',
);

const route = useRoute();
const router = useRouter();
const sections = computed(() => sectionsFor(session.may));
const section = computed(() => sections.value.find((one) => one.name === sectionOf(route.path)?.name));
const place = computed(() => placeOf(route.path));
const isInSettings = computed(() => route.path.startsWith('/settings'));
function make(what: Makeable): void {
  isCapturing.value = false;
  if (what === 'call') void router.push('/calls/new');
  else making.value = what;
}
function run({ act }: Command): void {
  if (act.kind === 'make') make(act.what);
  else if (act.kind === 'capture') isCapturing.value = true;
  else if (act.kind === 'theme') theme.value = act.to;
  else if (act.kind === 'keys') areKeysShown.value = true;
  else if (act.kind === 'sign out') void session.signOut();
}
usePageKeys((event) => {
  if (event.key === '?' && !event.ctrlKey && !event.metaKey) areKeysShown.value = true;
});
const themes: { value: ThemeChoice; name: string }[] = [
  { value: 'system', name: 'Theme: same as this device' },
  { value: 'vellum', name: 'Theme: light' },
  { value: 'lamplight', name: 'Theme: dark' },
];
</script>

<template>
  <header class="masthead">
    <RouterLink :to="sections[0]?.to ?? '/settings'" class="wordmark">Emporikon</RouterLink>
    <FindField @command="run" />
    <div class="who">
      <span v-if="!isLive" class="late" role="status">not live</span>
      <v-btn v-if="session.may('captures.add')" class="line" @click="isCapturing = true">Capture</v-btn>
      <v-btn class="plain for-you" @click="areNoticesShown = true">
        For you <sup v-if="counts?.notices">{{ shownCount(counts.notices) }}</sup>
      </v-btn>
      <v-menu>
        <template #activator="{ props: activator }">
          <v-btn class="plain me" v-bind="activator">{{ session.me?.name }}</v-btn>
        </template>
        <v-list density="compact">
          <v-list-item :title="forYou" @click="areNoticesShown = true" />
          <v-list-item
            v-for="one in themes"
            :key="one.value"
            :title="one.name"
            :active="theme === one.value"
            @click="theme = one.value"
          />
          <v-list-item title="Sign out" @click="session.signOut()" />
        </v-list>
      </v-menu>
    </div>
  </header>
  <nav class="sections" aria-label="Sections">
    <RouterLink
      v-for="one in sections"
      :key="one.to"
      :to="one.to"
      :class="{ on: one === section }"
      :aria-current="one === section ? 'page' : undefined"
    >
      <span :data-text="one.name">{{ one.name }}</span>
      <sup v-if="one.count">{{ counts?.[one.count] ? shownCount(counts[one.count]) : '' }}</sup>
    </RouterLink>
    <RouterLink
      to="/settings"
      class="settings"
      :class="{ on: isInSettings }"
      :aria-current="isInSettings ? 'page' : undefined"
    >
      <span data-text="Settings">Settings</span>
    </RouterLink>
  </nav>
  <nav
    v-if="section && place && section.places.length > 1"
    class="places"
    :aria-label="`${section.name}: places`"
  >
    <RouterLink
      v-for="one in section.places"
      :key="one.to"
      :to="one.to"
      :class="{ on: one.to === place.to }"
      :aria-current="one.to === place.to ? 'page' : undefined"
      >{{ one.name }}</RouterLink
    >
  </nav>
  <CaptureDialog v-if="isCapturing" @make="make" @close="isCapturing = false" />
  <NoticePanel v-if="areNoticesShown" @read="recount" @close="areNoticesShown = false" />
  <MakeDialog v-if="making" :what="making" @close="making = null" />
  <KeysDialog v-if="areKeysShown" @close="areKeysShown = false" />
</template>

<style scoped>
.masthead {
  height: 52px;
  flex: none;
  display: flex;
  align-items: center;
  gap: 24px;
  padding: 0 24px;
  border-bottom: 1px solid var(--rule);
}
.wordmark {
  font: 600 21px var(--head);
  letter-spacing: 0.01em;
  color: var(--ours) !important;
  text-decoration: none;
}
.who {
  margin-left: auto;
  display: flex;
  gap: 12px;
  align-items: center;
}
.me.me :deep(.v-btn__content) {
  display: block;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.me {
  padding: 6px 4px;
  white-space: nowrap;
}
.sections {
  height: 40px;
  flex: none;
  display: flex;
  gap: 26px;
  padding: 0 24px;
  border-bottom: 1px solid var(--rule);
  overflow-x: auto;
  scrollbar-width: none;
}
.sections a {
  display: flex;
  align-items: center;
  gap: 6px;
  text-decoration: none;
  color: var(--soft);
  border-bottom: 2px solid transparent;
  padding-top: 2px;
}
.sections span::after {
  content: attr(data-text);
  display: block;
  height: 0;
  overflow: hidden;
  visibility: hidden;
  font-weight: 600;
}
.sections .settings {
  margin-left: auto;
}
.sections a.on {
  color: var(--ink);
  border-color: var(--ours);
  font-weight: 600;
}
.places {
  flex: none;
  display: flex;
  gap: 18px;
  align-items: center;
  height: 30px;
  padding: 0 24px;
  border-bottom: 1px solid var(--rule2);
  font-size: 13px;
  overflow-x: auto;
  scrollbar-width: none;
}
.places a {
  min-height: 24px;
  line-height: 24px;
  white-space: nowrap;
  text-decoration: none;
  color: var(--soft);
}
.places a:hover,
.places a.on {
  color: var(--ink);
  text-decoration: underline;
  text-decoration-color: var(--ours);
  text-underline-offset: 4px;
}
.sections sup {
  font-size: 11px;
  color: var(--ours);
  font-weight: 600;
  min-width: 14px;
  line-height: 1;
}
.for-you sup {
  font-size: 11px;
  line-height: 0;
  color: var(--ours);
  font-weight: 600;
  margin-left: 3px;
}
@media (max-width: 700px) {
  /* It stands in the menu of the name instead. */
  .for-you {
    display: none;
  }
  .masthead {
    gap: 10px;
    padding: 0 14px;
  }
  .wordmark {
    min-width: 30px;
    font-size: 0;
    line-height: 44px;
  }
  .wordmark::first-letter {
    font-size: 24px;
  }
  .me {
    max-width: 64px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  /* On a phone the sections stand at the foot, where a thumb reaches them. */
  .sections {
    position: fixed;
    z-index: 22;
    left: 0;
    right: 0;
    bottom: 0;
    height: 58px;
    gap: 0;
    padding: 0 4px env(safe-area-inset-bottom);
    justify-content: space-between;
    background: var(--sheet);
    border-top: 1px solid var(--rule);
    border-bottom: 0;
    overflow-x: auto;
  }
  .sections a {
    flex: 1 1 auto;
    justify-content: center;
    min-width: 40px;
    padding: 0 1px;
    gap: 1px;
    font-size: 11.5px;
    border-bottom: 0;
    border-top: 2px solid transparent;
  }
  .sections sup {
    min-width: 0;
    font-size: 10px;
  }
  .sections .settings {
    margin-left: 0;
  }
  .places {
    height: 44px;
  }
  .places a {
    line-height: 44px;
    min-height: 44px;
  }
  .places {
    padding: 0 14px;
  }
}
</style>
