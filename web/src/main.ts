import '@fontsource-variable/literata/wght.css';
import '@fontsource-variable/source-sans-3/wght.css';
import 'vuetify/styles/core';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import App from './shell/App.vue';
import './look.css';
import { makeVuetify } from './platform/vuetify.ts';
import { router } from './router.ts';

createApp(App).use(createPinia()).use(router).use(makeVuetify()).mount('#app');
