import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

export default defineConfig({
  // Whitespace between elements is kept, so that the formatter may break a line between two words.
  plugins: [
    vue({ template: { compilerOptions: { whitespace: 'preserve' } } }),
    vuetify({ autoImport: true }),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsDir: 'assets',
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  // Vuetify asks for this while it is developed with, where there is no process.
  define: { 'process.env.VITE_LOGGER_ENABLED': '"false"' },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
