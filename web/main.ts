import '@fontsource-variable/commissioner';
import '@fontsource-variable/literata';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import 'vuetify/styles/core';
import App from './shell/App.vue';
import './shell/looks.css';
import './kit/kit.css';
import './shell/print.css';
import { router } from './shell/router';
import { vuetify } from './shell/theme';
import { restoreTyped } from './shell/typed';

/** Lets the browser paint, and answer a press, before the next long piece of work. */
const yieldToBrowser = (): Promise<void> => new Promise((resolve) => setTimeout(resolve));

await yieldToBrowser();
const app = createApp(App).use(createPinia()).use(vuetify).use(router);
await yieldToBrowser();
app.mount('#app');
void router.isReady().then(restoreTyped);
