import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

const target = process.env['API_ORIGIN'] ?? 'http://127.0.0.1:7300';

export default defineConfig({
  root: import.meta.dirname,
  plugins: [react(), tailwindcss()],
  worker: { format: 'es' },
  server: {
    host: '127.0.0.1',
    port: 5173,
    strictPort: true,
    proxy: { '/api': { target, ws: true, changeOrigin: true } },
  },
  build: { target: 'es2022', sourcemap: false, outDir: 'dist', emptyOutDir: true, chunkSizeWarningLimit: 700 },
});
