import { defineConfig } from '@playwright/test'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('.', import.meta.url))
const port = Number(process.env.ISOTOME_TEST_PORT ?? 8493)

// The real thing: bin/up with its web server and its worker, on a data folder of its own.
export default defineConfig({
    testDir: 'tests/Browser',
    outputDir: 'test-results/browser',
    workers: 1,
    retries: 0,
    // No test measures time: these are for machines that others take most of.
    timeout: 1_800_000,
    expect: { timeout: 240_000 },
    reporter: [['list']],
    use: {
        // What cannot be pressed is said, instead of the test's whole time being waited for.
        actionTimeout: 240_000,
        baseURL: `http://127.0.0.1:${port}`,
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true, contextOptions: { reducedMotion: 'reduce' },
        launchOptions: {
            executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
            args: [
                '--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-quic', '--no-first-run',
                '--disable-background-networking', '--disable-component-update', '--disable-sync',
            ],
        },
    },
    webServer: {
        command: `rm -rf test-results/data && exec bin/up --port ${port} --data test-results/data`,
        cwd: root,
        url: `http://127.0.0.1:${port}/api/v1/projects`,
        reuseExistingServer: false,
        env: { ISOTOME_HOLDS: '1' },
        timeout: 600_000,
        gracefulShutdown: { signal: 'SIGTERM', timeout: 60_000 },
    },
})
