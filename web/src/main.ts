import '@fontsource-variable/literata/wght.css';
import '@fontsource-variable/source-sans-3/wght.css';
import 'vuetify/styles/core';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import { createVuetify } from 'vuetify';
import App from './shell/App.vue';
import './look.css';
import { router } from './router.ts';

/** Labels and second lines are read in the evening too: Vuetify's own are too pale for that. */
const CONTRAST = { 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.82 };

const vuetify = createVuetify({
  theme: {
    defaultTheme: 'light',
    themes: {
      light: {
        dark: false,
        variables: CONTRAST,
        colors: { primary: '#2E4B3F', secondary: '#5C5FA8', error: '#A6532E', background: '#F5F6F1', surface: '#FFFFFF' },
      },
      dark: {
        dark: true,
        variables: CONTRAST,
        colors: { primary: '#A9C9B6', secondary: '#A9ABE6', error: '#E29A77', background: '#161D19', surface: '#1D2622' },
      },
    },
  },
  defaults: {
    VMenu: { offset: 6, transition: 'fade-transition' },
    VDialog: { maxWidth: 560, transition: 'fade-transition' },
    VSnackbar: { timeout: 9000, location: 'bottom left' },
  },
});

createApp(App).use(createPinia()).use(router).use(vuetify).mount('#app');
