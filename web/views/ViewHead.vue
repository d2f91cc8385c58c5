<script setup lang="ts">
import type { View } from '@emporikon/contract/queries';
import { computed } from 'vue';

/** What a view is called and whose it is, what was changed of it, and the way to the others. */
const props = defineProps<{
  view: View | null;
  views: readonly View[];
  title: string;
  /** Where the views of this kind are. */
  place: string;
  isChanged: boolean;
}>();
const emit = defineEmits<{ save: []; saveAs: []; discard: []; rename: []; remove: [] }>();
const SHORT = 4;
const others = computed(() => props.views.filter((one) => one.id !== props.view?.id).slice(0, SHORT));
const SHARED: Record<View['shared'], string> = {
  me: 'only you see it',
  team: 'shared with your team',
  everybody: 'shared with everybody',
};
</script>

<template>
  <div class="page-head view-head">
    <h1>{{ title }}</h1>
    <span v-if="view" class="soft about"
      >{{ SHARED[view.shared] }}<template v-if="view.owner"> · by {{ view.owner }}</template></span
    >
    <template v-if="isChanged">
      <span class="changed">changed</span>
      <v-btn v-if="view?.mayChange" class="word on" @click="emit('save')">Save</v-btn>
      <v-btn class="word" @click="emit('saveAs')">Save as …</v-btn>
      <v-btn v-if="view" class="word" @click="emit('discard')">Discard changes</v-btn>
    </template>
    <span class="spring"></span>
    <RouterLink v-for="one in others" :key="one.id" class="word" :to="`${place}/${one.id}`">{{
      one.name
    }}</RouterLink>
    <v-menu location="bottom end">
      <template #activator="{ props: opener }"
        ><v-btn class="word" v-bind="opener">All views …</v-btn></template
      >
      <v-list class="choices" aria-label="All views">
        <v-list-item v-for="one in views" :key="one.id" :title="one.name" :to="`${place}/${one.id}`" />
        <v-divider />
        <v-list-item title="New view" :to="`${place}/new`" />
        <v-list-item v-if="view?.mayChange" title="Rename or share …" @click="emit('rename')" />
        <v-list-item v-if="view?.mayChange" title="Delete this view" @click="emit('remove')" />
      </v-list>
    </v-menu>
  </div>
</template>

<style scoped>
.view-head {
  flex-wrap: wrap;
}
.about {
  font-size: 13px;
}
@media (max-width: 700px) {
  .about,
  h1 {
    flex-basis: 100%;
  }
}
.changed {
  color: var(--wait);
}
.spring {
  flex: 1;
}
</style>
