import { fileURLToPath } from 'node:url';
import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

const api = process.env['API'] ?? 'http://127.0.0.1:4640';

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  build: { outDir: 'dist', assetsInlineLimit: 0, chunkSizeWarningLimit: 700 },
  server: {
    host: '127.0.0.1',
    port: 4641,
    strictPort: true,
    proxy: { '/api': { target: api, ws: true, changeOrigin: true } },
  },
  test: {
    name: 'web',
    environment: 'jsdom',
    include: ['test/**/*.test.{ts,tsx}'],
    setupFiles: ['test/setup.ts'],
    // What a test draws is taken away after it: files may share what they have loaded, which is most of their time.
    isolate: false,
    testTimeout: 30_000,
  },
});
