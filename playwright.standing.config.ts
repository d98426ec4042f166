import { defineConfig } from '@playwright/test'

// Attacks, kills, full disks and crowds: each test starts a real bin/up of its own. No browser.
export default defineConfig({
    testDir: 'tests/Standing',
    outputDir: 'test-results/standing',
    workers: 2,
    retries: 0,
    timeout: 600_000,
    expect: { timeout: 60_000 },
    reporter: [['list']],
})
