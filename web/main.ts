import '@fontsource-variable/commissioner';
import '@fontsource-variable/literata';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import 'vuetify/styles';
import App from './shell/App.vue';
import './shell/looks.css';
import './kit/kit.css';
import { router } from './shell/router';
import { vuetify } from './shell/theme';
import { restoreTyped } from './shell/typed';

createApp(App).use(createPinia()).use(vuetify).use(router).mount('#app');
void router.isReady().then(restoreTyped);
