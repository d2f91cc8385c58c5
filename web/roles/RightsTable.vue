<script setup lang="ts">
import {
  ACTIONS as ALL_ACTIONS,
  actionsOf,
  completeRights,
  RECORD_AREAS,
  SETTING_AREAS,
  withoutRight,
  type Action,
  type RecordArea,
  type Right,
} from '@emporikon/core/rights/rights';
import { computed } from 'vue';
import { ACTIONS, AREAS, SETTINGS_OF } from './words';

/** What a role may do: an area a row, what can be done there in columns, and the settings below. */
const rights = defineModel<readonly Right[]>({ required: true });
defineProps<{ isFixed: boolean }>();
const held = computed(() => new Set(rights.value));

const rightOf = (area: RecordArea, action: Action): Right => `${area}.${action}` as Right;
/** Ticking one ticks what it needs; unticking one unticks what needs it. */
function set(right: Right, on: boolean): void {
  rights.value = on ? completeRights([...rights.value, right]) : withoutRight(rights.value, right);
}
const isPartly = (area: RecordArea): boolean =>
  actionsOf(area).some((action) => held.value.has(rightOf(area, action)));
/** All of an area at once; where something of it is held, none. */
function setArea(area: RecordArea): void {
  rights.value = isPartly(area)
    ? withoutRight(rights.value, rightOf(area, 'see'))
    : completeRights([...rights.value, ...actionsOf(area).map((action) => rightOf(area, action))]);
}
const nameOf = (area: RecordArea, action: Action): string =>
  area === 'people' && action === 'delete' ? 'Erase people' : `${ACTIONS[action]}: ${AREAS[area]}`;
</script>

<template>
  <div class="scroll" tabindex="0" role="region" aria-label="Rights on records">
    <v-table class="book">
      <thead>
        <tr>
          <th>Records</th>
          <th v-for="action in ALL_ACTIONS" :key="action" class="tick">{{ ACTIONS[action] }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="area in RECORD_AREAS" :key="area">
          <td class="area">
            <v-btn
              v-if="!isFixed"
              class="word"
              :title="isPartly(area) ? 'Allow nothing' : 'Allow all'"
              @click="setArea(area)"
              >{{ AREAS[area] }}</v-btn
            >
            <span v-else>{{ AREAS[area] }}</span>
          </td>
          <td v-for="action in ALL_ACTIONS" :key="action" class="tick">
            <v-checkbox-btn
              v-if="actionsOf(area).includes(action)"
              class="tickbox"
              :model-value="held.has(rightOf(area, action))"
              :disabled="isFixed"
              :aria-label="nameOf(area, action)"
              @update:model-value="set(rightOf(area, action), $event)"
            />
          </td>
        </tr>
      </tbody>
    </v-table>
  </div>
  <h2>Settings</h2>
  <div class="settings-rights">
    <v-checkbox
      v-for="area in SETTING_AREAS"
      :key="area"
      :model-value="held.has(`settings.${area}`)"
      :disabled="isFixed"
      :label="`${SETTINGS_OF[area].name}: ${SETTINGS_OF[area].holds}`"
      hide-details
      @update:model-value="set(`settings.${area}`, $event === true)"
    />
  </div>
</template>

<style scoped>
.tick {
  width: 92px;
  text-align: center;
}
.tick :deep(.v-selection-control) {
  justify-content: center;
}
.area {
  white-space: nowrap;
}
h2 {
  margin: 18px 0 2px;
  font-size: 14px;
}
.settings-rights {
  max-width: 640px;
}
</style>
