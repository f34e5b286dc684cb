import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

export default defineConfig({
    plugins: [react(), tailwindcss()],
    base: '/build/',
    publicDir: false,
    build: {
        outDir: 'public/build',
        manifest: 'manifest.json',
        rollupOptions: { input: 'resources/ts/main.tsx' },
        chunkSizeWarningLimit: 900,
    },
    test: { include: ['resources/ts/**/*.test.ts'] },
});
