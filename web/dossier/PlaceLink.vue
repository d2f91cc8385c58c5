<script setup lang="ts">
import type { PlaceView } from '@emporikon/contract/places';
import { geoUri } from '@emporikon/core/places/geoUri';
import { computed } from 'vue';

/** Opens a written address in the map program of the device. */
const props = defineProps<{ place: PlaceView | null; address: string | null }>();
/** Where the record is with its company, its own address is only words. */
const own = computed(() => (props.place && !props.place.ofCompany ? props.place : null));
</script>

<template>
  <span v-if="address" class="place"
    ><a class="quiet-link" :href="geoUri(own ? [own.lon, own.lat] : null, address)">Open in maps</a
    ><span v-if="own" class="soft" :title="own.town"> · by {{ own.precision }}</span></span
  >
</template>

<style scoped>
.place {
  display: block;
  line-height: 24px;
}
</style>
