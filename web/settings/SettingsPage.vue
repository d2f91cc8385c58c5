<script setup lang="ts">
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useMedia } from '../shell/browser';
import { SETTINGS } from '../shell/settingsMap';
import { useSession } from '../shell/session';

/** The index of Settings, and the entry that is open beside it. */
const session = useSession();
const route = useRoute();
const router = useRouter();
/** On a phone the index is one field, so that the entry begins where it is seen. */
const isPhone = useMedia('(max-width: 800px)');
const groups = computed(() =>
  SETTINGS.map((group) => ({
    ...group,
    places: group.places.filter(({ isForAdmins }) => !isForAdmins || session.me?.role === 'admin'),
  })),
);
const choices = computed(() =>
  groups.value.flatMap(({ name, places }) => [
    { type: 'subheader', title: name },
    ...places.map((place) => ({ value: place.to, title: place.name })),
  ]),
);
</script>

<template>
  <div class="settings">
    <nav v-if="isPhone" class="index" aria-label="Settings">
      <v-select
        :model-value="route.path"
        :items="choices"
        label="Settings for"
        @update:model-value="router.push($event)"
      />
    </nav>
    <nav v-else class="index" aria-label="Settings">
      <template v-for="group in groups" :key="group.name">
        <h2>{{ group.name }}</h2>
        <RouterLink v-for="place in group.places" :key="place.to" :to="place.to">{{ place.name }}</RouterLink>
      </template>
    </nav>
    <div class="work"><RouterView /></div>
  </div>
</template>

<style scoped>
.settings {
  flex: 1;
  display: grid;
  grid-template-columns: 230px minmax(0, 1fr);
}
.index {
  padding: 14px 0;
  border-right: 1px solid var(--rule);
  display: flex;
  flex-direction: column;
  font-size: 13.5px;
}
.index h2 {
  margin: 6px 18px 2px 24px;
  padding-top: 6px;
  border-top: 1px solid var(--rule2);
  font: 600 14px var(--head);
}
.index h2:first-child {
  border: 0;
  margin-top: 0;
  padding-top: 0;
}
.index a {
  padding: 2px 18px 2px 24px;
  min-height: 24px;
  text-decoration: none;
}
.index a:hover {
  text-decoration: underline;
  text-decoration-color: var(--rule);
  text-underline-offset: 3px;
}
.index a.router-link-active {
  background: var(--sheet);
  box-shadow: inset 3px 0 var(--ours);
  font-weight: 600;
}
.work {
  padding: 14px 34px 30px;
  min-width: 0;
  overflow-x: clip;
}
@media (max-width: 800px) {
  .settings {
    display: block;
  }
  .index {
    padding: 10px 14px;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  .work {
    padding: 12px 14px 24px;
  }
}
</style>
