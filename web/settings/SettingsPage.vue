<script setup lang="ts">
import { computed } from 'vue';
import { SETTINGS } from '../shell/map';
import { useSession } from '../shell/session';

/** The index of Settings, and the entry that is open beside it. */
const session = useSession();
const groups = computed(() =>
  SETTINGS.map((group) => ({
    ...group,
    places: group.places.filter(({ isForAdmins }) => !isForAdmins || session.me?.role === 'admin'),
  })),
);
</script>

<template>
  <div class="settings">
    <nav class="index" aria-label="Settings">
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
    flex-flow: row wrap;
    gap: 2px 14px;
    padding: 10px 14px;
    border-right: 0;
    border-bottom: 1px solid var(--rule);
  }
  .index h2 {
    flex-basis: 100%;
    margin: 2px 0 0;
    padding: 0;
    border: 0;
  }
  .index a {
    padding: 2px 0;
  }
  .index a.router-link-active {
    box-shadow: inset 0 -2px var(--ours);
  }
  .work {
    padding: 12px 14px 24px;
  }
}
</style>
