import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import type { Plugin } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';
import { defineConfig } from 'vitest/config';
import { fluent } from './fluent.ts';

/** Files smaller than this gain nothing [bytes]. */
const WORTH_BYTES = 1024;

/** Beside every script and style its compressed forms, made once: the server only picks one. */
function precompressed(): Plugin {
  let folder = '';
  return {
    name: 'precompressed',
    apply: 'build',
    configResolved(config) {
      folder = join(config.root, config.build.outDir);
    },
    closeBundle() {
      for (const name of readdirSync(folder, { recursive: true, encoding: 'utf8' })) {
        // The worker is written after this, and changes with every file that it keeps.
        if (name === 'sw.js' || !/\.(m?js|css|svg|json|webmanifest)$/.test(name)) continue;
        const file = join(folder, name);
        const data = readFileSync(file);
        if (data.length < WORTH_BYTES) continue;
        writeFileSync(`${file}.gz`, gzipSync(data, { level: 9 }));
        const params = { [constants.BROTLI_PARAM_QUALITY]: 11 };
        writeFileSync(`${file}.br`, brotliCompressSync(data, { params }));
      }
    },
  };
}

/** The shape of what the API answers: what was kept of another is not read. */
const apiDigest = createHash('sha256')
  .update(readFileSync(join(import.meta.dirname, 'src/api/schema.d.ts')))
  .digest('hex')
  .slice(0, 12);

export default defineConfig({
  define: { __API_DIGEST__: JSON.stringify(apiDigest) },
  plugins: [
    fluent(),
    react(),
    precompressed(),
    VitePWA({
      strategies: 'injectManifest',
      srcDir: 'src',
      filename: 'sw.ts',
      injectRegister: false,
      manifest: {
        name: 'Limpet',
        short_name: 'Limpet',
        description: 'Range tests of light electric vehicles',
        start_url: '/ride',
        scope: '/',
        display: 'standalone',
        background_color: '#F6F3EC',
        theme_color: '#F6F3EC',
        // Whatever rider's app can share a log, a track or a picture, can share it here.
        share_target: {
          action: '/import',
          method: 'POST',
          enctype: 'multipart/form-data',
          params: {
            title: 'title',
            files: [
              {
                name: 'files',
                accept: [
                  'text/csv',
                  'text/plain',
                  'application/gpx+xml',
                  'image/jpeg',
                  '.csv',
                  '.tsv',
                  '.txt',
                  '.gpx',
                  '.tcx',
                  '.kml',
                  '.fit',
                  '.nmea',
                  '.xlsx',
                  '.ods',
                  '.zip',
                  '.gz',
                  '.json',
                  '.geojson',
                ],
              },
            ],
          },
        },
        icons: [
          { src: '/icon-192.png', sizes: '192x192', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png' },
          { src: '/icon-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      injectManifest: {
        // The worker is built by itself, and sends what waits: it says why it could not.
        buildPlugins: { vite: [fluent()] },
        globPatterns: ['**/*.{js,css,html,svg,png,woff2}'],
        // The map's library is fetched where a map is seen; a ride needs none of it.
        globIgnores: ['**/GroundMap-*'],
        // The page comes from the server with its own headers, not as a file.
        manifestTransforms: [
          (entries) => ({
            manifest: entries.map((entry) =>
              entry.url === 'index.html' ? { ...entry, url: '/' } : entry,
            ),
            warnings: [],
          }),
        ],
      },
    }),
  ],
  // On a machine that is busy a test takes several times as long, and nothing is wrong with it.
  test: { setupFiles: ['src/testing/locale.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
  build: {
    chunkSizeWarningLimit: 1200,
    // Fonts as files, so that they are cached apart from the styles.
    assetsInlineLimit: 0,
  },
});
