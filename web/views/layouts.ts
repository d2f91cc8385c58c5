import { defineAsyncComponent } from 'vue';

/** The ways to show the records of a view besides the table, each loaded with the first view that wants it. */
export const ViewCards = defineAsyncComponent(() => import('./ViewCards.vue'));
export const ViewLanes = defineAsyncComponent(() => import('./ViewLanes.vue'));
export const ViewCalendar = defineAsyncComponent(() => import('./ViewCalendar.vue'));
export const ViewMap = defineAsyncComponent(() => import('./map/ViewMap.vue'));
