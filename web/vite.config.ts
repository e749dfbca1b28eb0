import react from '@vitejs/plugin-react';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig({
  // Each file beside itself in both forms that browsers ask for, so that the server compresses none of them.
  plugins: [react(), compression({ algorithms: ['brotliCompress', 'gzip'], exclude: [/\.(br|gz|woff2?|png|html)$/] })],
  // Bootstrap's own sheets use forms of Sass that are on their way out.
  css: { preprocessorOptions: { scss: { quietDeps: true, silenceDeprecations: ['import'] } } },
  build: { target: 'es2022', chunkSizeWarningLimit: 700 },
  server: {
    host: '127.0.0.1',
    strictPort: true,
    proxy: { '/api': `http://127.0.0.1:${process.env.API_PORT ?? 4600}` },
  },
});
