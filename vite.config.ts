import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { VitePWA } from 'vite-plugin-pwa';

const isolation = { 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' };

export default defineConfig({
  plugins: [
    react(),
    VitePWA({
      // A newer build waits until it is asked for: a page that is open keeps the files it was made with.
      registerType: 'prompt',
      injectRegister: false,
      manifest: {
        name: 'Rimefield',
        short_name: 'Rimefield',
        description: 'Makes tidy tables out of reports that were made to be read, and proves that nothing went missing',
        display: 'standalone',
        background_color: '#e8eef0',
        theme_color: '#17303a',
        icons: [
          { src: 'app-192.png', sizes: '192x192', type: 'image/png' },
          { src: 'app-512.png', sizes: '512x512', type: 'image/png' },
          { src: 'app-512.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
        ],
      },
      workbox: {
        globPatterns: ['**/*'],
        // Every file is kept for when there is no network, the largest a library of several megabytes.
        maximumFileSizeToCacheInBytes: 20_000_000,
        navigateFallback: 'index.html',
        navigateFallbackDenylist: [/^\/api\//],
        // Names of built files carry a hash of what is in them.
        dontCacheBustURLsMatching: /^assets\//,
        // The token of a guarded server is in the address once.
        ignoreURLParametersMatching: [/^token$/],
      },
    }),
  ],
  publicDir: 'web/public',
  build: { outDir: 'dist/web', assetsInlineLimit: 0, chunkSizeWarningLimit: 1200 },
  worker: { format: 'es' },
  assetsInclude: ['**/*.xlsx', '**/*.prn', '**/*.log'],
  server: { headers: isolation },
});
