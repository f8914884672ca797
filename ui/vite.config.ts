import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';

export default defineConfig({
  plugins: [react(), tailwindcss()],
  // Nothing as data: addresses, which the page's own policy refuses.
  build: { assetsInlineLimit: 0 },
  // While developing, pages come from Vite and data from the server beside it.
  // The guide and its pictures lie beside the front end.
  server: { port: 8485, fs: { allow: ['..'] }, proxy: { '/api': { target: 'http://127.0.0.1:8484', changeOrigin: true } } },
});
