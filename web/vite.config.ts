import vue from '@vitejs/plugin-vue';
import { defineConfig, type Plugin } from 'vite';
import vuetify from 'vite-plugin-vuetify';

interface Modules {
  getModuleInfo: (id: string) => { isEntry: boolean; importers: readonly string[] } | null;
}

/** Whether the start of the application needs a module, and not only a page that is loaded for itself. */
function isOfStart(id: string, modules: Modules, known: Map<string, boolean>): boolean {
  const found = known.get(id);
  if (found !== undefined) return found;
  known.set(id, false);
  const info = modules.getModuleInfo(id);
  const is =
    info !== null && (info.isEntry || info.importers.some((importer) => isOfStart(importer, modules, known)));
  known.set(id, is);
  return is;
}
const ofStart = new Map<string, boolean>();

/** The letters of the first screen are asked for with the page itself, not once its styles are there. */
const preloadFonts: Plugin = {
  name: 'preload-fonts',
  transformIndexHtml: {
    order: 'post',
    handler: (_html, { bundle }) =>
      Object.keys(bundle ?? {})
        .filter((name) => /-latin-wght-normal-.*\.woff2$/.test(name))
        .map((name) => ({
          tag: 'link',
          attrs: { rel: 'preload', href: `/${name}`, as: 'font', type: 'font/woff2', crossorigin: '' },
          injectTo: 'head',
        })),
  },
};

/** The calendar library brings a font of icons as a data address, which the page policy refuses, and which nothing here uses. */
const withoutIconFont: Plugin = {
  name: 'without-icon-font',
  transform: {
    filter: { id: /@fullcalendar\/core\/internal-common\.js$/ },
    handler: (code) => ({ code: code.replace(/@font-face\{[^}]*\}/, ''), map: null }),
  },
};

export default defineConfig({
  // Whitespace between elements is kept, so that the formatter may break a line between two words.
  plugins: [
    vue({ template: { compilerOptions: { whitespace: 'preserve' } } }),
    vuetify({ autoImport: true }),
    preloadFonts,
    withoutIconFont,
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    assetsDir: 'assets',
    target: 'es2022',
    chunkSizeWarningLimit: 700,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        // What every page needs comes in one file, and not in two dozen over the few connections a browser opens.
        codeSplitting: {
          groups: [
            {
              name: (id, modules) => (isOfStart(id, modules as Modules, ofStart) ? 'start' : null),
              priority: 2,
            },
            // And what most pages are made of in another.
            {
              name: 'controls',
              test: /node_modules\/(?:vuetify|@mdi)\/|\/web\/(?:kit|shell|dossier)\//,
              minShareCount: 11,
              priority: 1,
            },
            // The parts of a dossier, which stand on several pages, come together too.
            {
              name: 'parts',
              test: /\/web\/(?:kit|shell|dossier|visibility|lookups|lookalikes)\//,
              minShareCount: 6,
              priority: 0,
            },
          ],
        },
      },
    },
  },
  define: {
    // Vuetify asks for this while it is developed with, where there is no process.
    'process.env.VITE_LOGGER_ENABLED': '"false"',
    // Every component here is written with setup.
    __VUE_OPTIONS_API__: 'false',
    __VUE_PROD_DEVTOOLS__: 'false',
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4600' } },
});
