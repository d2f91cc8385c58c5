import { ref } from 'vue';

/** Whether anything was begun that goes on in the background; what tells of it is loaded then, and not before. */
export const hasBackgroundWork = ref(false);
