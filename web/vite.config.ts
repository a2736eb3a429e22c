// How the interface is built, and served while it is developed.

import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const SERVER = `http://127.0.0.1:${process.env['STELLIN_PORT'] ?? 4170}`;

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { outDir: '../dist/web', emptyOutDir: true, assetsInlineLimit: 0, chunkSizeWarningLimit: 900 },
  server: { proxy: { '/api': SERVER } },
});
