<script setup lang="ts">
import { defineAsyncComponent, ref } from 'vue';
import { shownCount } from './format';
import { api } from './api';
import Find from './Find.vue';
import { isLive, useFetched } from './live';
import { useSession } from './session';
import type { ThemeChoice } from './theme';

const theme = defineModel<ThemeChoice>('theme', { required: true });
const CaptureDialog = defineAsyncComponent(() => import('./CaptureDialog.vue'));
const session = useSession();
const isCapturing = ref(false);
const { data: counts } = useFetched(() => api('GET /api/counts'), ['captures', 'tasks', 'leads', 'deals']);

const sections = [
  { to: '/arrivals', name: 'Arrivals', count: 'arrivals' },
  { to: '/round', name: 'Round', count: 'round' },
  { to: '/leads', name: 'Leads', count: 'leads' },
  { to: '/people', name: 'People', count: null },
  { to: '/companies', name: 'Companies', count: null },
  { to: '/deals', name: 'Deals', count: 'deals' },
  { to: '/settings', name: 'Settings', count: null },
] as const;
const themes: { value: ThemeChoice; name: string }[] = [
  { value: 'system', name: 'Light as the system' },
  { value: 'vellum', name: 'Vellum' },
  { value: 'lamplight', name: 'Lamplight' },
];
</script>

<template>
  <header class="masthead">
    <RouterLink to="/arrivals" class="wordmark">Emporikon</RouterLink>
    <Find />
    <div class="who">
      <span v-if="!isLive" class="late" role="status">not live</span>
      <v-btn class="line" @click="isCapturing = true">Capture</v-btn>
      <v-menu>
        <template #activator="{ props: activator }">
          <button class="plain me" v-bind="activator">{{ session.me?.name }}</button>
        </template>
        <v-list density="compact">
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
    <RouterLink v-for="one in sections" :key="one.to" :to="one.to">
      <span :data-text="one.name">{{ one.name }}</span>
      <sup v-if="one.count">{{ counts?.[one.count] ? shownCount(counts[one.count]) : '' }}</sup>
    </RouterLink>
  </nav>
  <CaptureDialog v-if="isCapturing" @close="isCapturing = false" />
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
.sections a.router-link-active {
  color: var(--ink);
  border-color: var(--ours);
  font-weight: 600;
}
.sections sup {
  font-size: 11px;
  color: var(--ours);
  font-weight: 600;
  min-width: 14px;
  line-height: 1;
}
@media (max-width: 700px) {
  .masthead {
    gap: 10px;
    padding: 0 14px;
  }
  .wordmark {
    font-size: 0;
  }
  .wordmark::first-letter {
    font-size: 24px;
  }
  .me {
    max-width: 64px;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .sections {
    gap: 20px;
    padding: 0 14px;
  }
}
</style>
