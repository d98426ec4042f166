import { defineConfig } from '@playwright/test'
import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('.', import.meta.url))
const port = (index: number) => 8493 + index
// Not more than two: beyond that, drawing without a graphics card takes all of the machine.
const workers = Math.min(2, availableParallelism())

// The real thing: for each process of tests one bin/up with its web server and its worker, on a port and a data folder of its own.
export default defineConfig({
    testDir: 'tests/Browser',
    outputDir: 'test-results/browser',
    workers,
    retries: 0,
    // No test measures time: these are for machines that others take most of.
    timeout: 1_800_000,
    expect: { timeout: 240_000 },
    reporter: [['list']],
    use: {
        // What cannot be pressed is said, instead of the test's whole time being waited for.
        actionTimeout: 240_000,
        // Each process of tests reads this file anew, with its own number set.
        baseURL: `http://127.0.0.1:${port(Number(process.env.TEST_PARALLEL_INDEX ?? 0))}`,
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true, contextOptions: { reducedMotion: 'reduce' },
        launchOptions: {
            executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
            args: [
                '--no-sandbox', '--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--disable-quic', '--no-first-run',
                '--disable-background-networking', '--disable-component-update', '--disable-sync',
                // Without a graphics card, pages are composed faster in plain software than by a simulated card; and smooth edges cost time that no test looks at.
                '--disable-gpu-compositing', '--disable-gpu-rasterization', '--webgl-antialiasing-mode=none',
            ],
        },
    },
    webServer: Array.from({ length: workers }, (_, index) => ({
        command: `rm -rf test-results/data-${index} && exec bin/up --port ${port(index)} --data test-results/data-${index}`,
        cwd: root,
        url: `http://127.0.0.1:${port(index)}/api/v1/projects`,
        reuseExistingServer: false,
        env: { ISOTOME_HOLDS: '1' },
        timeout: 600_000,
        gracefulShutdown: { signal: 'SIGTERM', timeout: 60_000 },
    })),
})
