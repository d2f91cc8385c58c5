<script setup lang="ts">
/** Takes something out of use, or into use again; what was made with it stays. */
defineProps<{ name: string; active: boolean }>();
const emit = defineEmits<{ turn: [active: boolean] }>();
</script>

<template>
  <v-btn
    class="word"
    :aria-label="`${active ? 'Retire' : 'Use again'} ${name}`"
    @click="emit('turn', !active)"
  >
    {{ active ? 'Retire' : 'Use again' }}
  </v-btn>
</template>
