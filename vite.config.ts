import vue from '@vitejs/plugin-vue'
import laravel from 'laravel-vite-plugin'
import { defineConfig } from 'vite'

export default defineConfig({
    plugins: [laravel({ input: ['resources/ts/main.ts'] }), vue()],
    build: { chunkSizeWarningLimit: 2000 },
})
