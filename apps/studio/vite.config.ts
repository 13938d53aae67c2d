import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: { target: 'es2022', chunkSizeWarningLimit: 2000 },
  server: { port: 4610, proxy: { '/api': 'http://127.0.0.1:4600', '/media': 'http://127.0.0.1:4600', '/assets/fonts': 'http://127.0.0.1:4600' } },
});
