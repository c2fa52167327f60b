import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import react from '@vitejs/plugin-react';
import { defineConfig, type Plugin } from 'vite';

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
        if (!/\.(js|css|svg|json|webmanifest)$/.test(name)) continue;
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

export default defineConfig({
  plugins: [react(), precompressed()],
  build: {
    chunkSizeWarningLimit: 1200,
    // Fonts as files, so that they are cached apart from the styles.
    assetsInlineLimit: 0,
  },
});
