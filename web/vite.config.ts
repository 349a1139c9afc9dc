import vue from '@vitejs/plugin-vue';
import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';
import vuetify from 'vite-plugin-vuetify';

const source = (name: string, file = 'index'): string => fileURLToPath(new URL(`../${name}/src/${file}.ts`, import.meta.url));

export default defineConfig({
  // As the formatter reads a template: a line break between two words is a space.
  plugins: [vue({ template: { compilerOptions: { whitespace: 'preserve' } } }), vuetify({ autoImport: true, styles: true })],
  resolve: {
    alias: { '@rosemary/core': source('core'), '@rosemary/api/endpoints': source('api', 'endpoints'), '@rosemary/api': source('api') },
  },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    chunkSizeWarningLimit: 1200,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // Some hundred bytes that every page needs are one file: each file more costs its name wherever a page is loaded from.
        codeSplitting: {
          groups: [
            {
              name: 'asked',
              test: /web\/src\/stores\/(ripple|running|touched)Store\.ts$|web\/src\/stores\/asking\.ts$|core\/src\/exact\/(countOf|locale)\.ts$/,
            },
          ],
        },
      },
    },
  },
  server: { port: 5173, proxy: { '/api': { target: `http://127.0.0.1:${process.env.ROSEMARY_API_PORT ?? '3000'}`, changeOrigin: false } } },
});
