import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react()],
  build: {
    chunkSizeWarningLimit: 1200,
    // Fonts as files, so that they are cached apart from the styles.
    assetsInlineLimit: 0,
  },
});
