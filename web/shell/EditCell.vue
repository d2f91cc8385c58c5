<script setup lang="ts">
/** A value edited in place in a table or sheet; it is put when it has been changed. Further attributes go to the input. */
defineProps<{ value: string | number; label: string; disabled: boolean }>();
const emit = defineEmits<{ put: [text: string] }>();
</script>

<template>
  <input
    class="inline-edit"
    :value="value"
    :disabled="disabled"
    :aria-label="label"
    @change="emit('put', ($event.target as HTMLInputElement).value)"
  />
</template>
