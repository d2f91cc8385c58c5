import { usePreferredDark, useStored } from './browser';
import { computed, watch } from 'vue';
import { createVuetify, useTheme } from 'vuetify';
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg';
import { DEFAULTS } from '../kit/defaults';

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? '';

export const vuetify = createVuetify({
  theme: {
    defaultTheme: 'vellum',
    cspNonce: nonce,
    themes: {
      vellum: {
        dark: false,
        colors: {
          background: '#F5F0E6',
          surface: '#FFFDF8',
          primary: '#8A2D3B',
          secondary: '#2C6E68',
          warning: '#A8741A',
          error: '#A3241C',
          'on-background': '#23201B',
          'on-surface': '#23201B',
        },
      },
      lamplight: {
        dark: true,
        colors: {
          background: '#191714',
          surface: '#211E1A',
          primary: '#E08A94',
          secondary: '#7CC4BB',
          warning: '#E0B25C',
          error: '#F08A80',
          'on-background': '#EDE5D6',
          'on-surface': '#EDE5D6',
        },
      },
    },
  },
  icons: { defaultSet: 'mdi', aliases, sets: { mdi } },
  defaults: DEFAULTS,
});

export type ThemeChoice = 'system' | 'vellum' | 'lamplight';

/** The theme a person chose on this device, or the one their system asks for. */
export function useLooks() {
  const theme = useTheme();
  const choice = useStored<ThemeChoice>('emporikon.theme', 'system');
  const dark = usePreferredDark();
  const name = computed(() =>
    choice.value === 'system' ? (dark.value ? 'lamplight' : 'vellum') : choice.value,
  );
  watch(name, (next) => theme.change(next), { immediate: true });
  return { choice, name };
}
