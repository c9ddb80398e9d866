import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const isolation = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' };

export default defineConfig({
  plugins: [react()],
  publicDir: 'web/public',
  build: { outDir: 'dist/web', assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
  assetsInclude: ['**/*.xlsx', '**/*.prn', '**/*.log'],
  server: { headers: isolation },
});
