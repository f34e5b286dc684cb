import tailwindcss from '@tailwindcss/vite';
import react from '@vitejs/plugin-react';
import { defineConfig } from 'vitest/config';

/** The notices bring their styles into the page as text, which its policy does not allow; they come with ours instead. */
const noStylesAsText = {
    name: 'no-styles-as-text',
    transform: (code: string, id: string) => (id.includes('/sonner/dist/index') ? code.replace(/^__insertCSS\(".*"\);?$/m, '') : null),
};

export default defineConfig({
    plugins: [react(), tailwindcss(), noStylesAsText],
    base: './',
    publicDir: false,
    build: {
        outDir: 'public/build',
        manifest: 'manifest.json',
        rollupOptions: { input: 'resources/ts/main.tsx' },
        chunkSizeWarningLimit: 900,
    },
    test: { include: ['resources/ts/**/*.test.ts'] },
});
