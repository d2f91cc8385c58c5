<script setup lang="ts">
import { computed } from 'vue';
import { VDatePicker } from 'vuetify/components/VDatePicker';

/** A month to pick a day (YYYY-MM-DD) from; loaded when somebody opens it. */
const props = defineProps<{ day: string }>();
const emit = defineEmits<{ pick: [day: string] }>();

const shown = computed(() => (props.day ? new Date(`${props.day}T00:00`) : null));
const pad = (part: number): string => String(part).padStart(2, '0');
const isoOf = (date: Date): string =>
  `${date.getFullYear()}-${pad(date.getMonth() + 1)}-${pad(date.getDate())}`;
</script>

<template>
  <VDatePicker
    :model-value="shown"
    hide-header
    show-adjacent-months
    width="300"
    @update:model-value="emit('pick', isoOf($event as Date))"
  />
</template>
