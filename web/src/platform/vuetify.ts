import { createVuetify } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';

/** Labels and second lines are read in the evening too: Vuetify's own are too pale for that. */
const CONTRAST = { 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.82, 'disabled-opacity': 0.72 };
/** Every field is one line with a rule under it; what is wrong with it is said by the part it stands in. */
const LINE = { variant: 'underlined', density: 'compact', hideDetails: true, color: 'secondary' } as const;

/** Theme, icons and the defaults of every component: said once, so that nothing looks stock and nothing is styled twice. */
export function makeVuetify(): ReturnType<typeof createVuetify> {
  return createVuetify({
    icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
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
      VBtn: { ripple: false, elevation: 0 },
      VMenu: { offset: 6, transition: 'fade-transition' },
      VDialog: { maxWidth: 560, transition: 'fade-transition' },
      VSnackbar: { timeout: 9000, location: 'bottom left' },
      VTextField: LINE,
      VTextarea: { ...LINE, rows: 3 },
      VSelect: { ...LINE, menuProps: { contentClass: 'choices', maxHeight: 420 } },
      VAutocomplete: { ...LINE, menuProps: { contentClass: 'choices', maxHeight: 420 } },
      VCheckboxBtn: { density: 'compact', ripple: false, color: 'primary' },
      VRadio: { density: 'compact', ripple: false, color: 'primary' },
      VProgressLinear: { color: 'primary', height: 4, rounded: true },
    },
  });
}
